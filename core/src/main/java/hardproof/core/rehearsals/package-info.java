/** Rehearsals: whole workloads brought back in their order, what begins when, and what it comes to. Nothing here reads a byte. */
package hardproof.core.rehearsals;
