/** Evaluations of what is known, and the Board and the case file that read them. */
package hardproof.server.proof;
