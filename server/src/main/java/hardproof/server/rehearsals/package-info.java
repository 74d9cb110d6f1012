/** Whole workloads brought back in their order: planned, carried out, and what came of it. */
package hardproof.server.rehearsals;
