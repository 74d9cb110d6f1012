/** Findings as people work with them: since when, who looked, and what to do with them. */
package hardproof.server.findings;
