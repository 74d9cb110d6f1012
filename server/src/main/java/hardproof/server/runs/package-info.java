/** Drill runs as they are recorded, with what was asked of them. */
package hardproof.server.runs;
