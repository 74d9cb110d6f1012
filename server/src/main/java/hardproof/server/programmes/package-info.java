/** Drills that start by themselves. */
package hardproof.server.programmes;
