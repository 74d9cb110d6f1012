/** Drills as facts and as state machines, and when a programme is due. Nothing here reads a byte. */
package hardproof.core.drills;
