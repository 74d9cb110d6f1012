/** The run queue, the programmes that fill it, and what a run comes to. */
package hardproof.server.drills;
