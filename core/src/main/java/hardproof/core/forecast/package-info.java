/** What the coming nights will hold: which drills, which proofs lapse and why, and what would prevent it. */
package hardproof.core.forecast;
