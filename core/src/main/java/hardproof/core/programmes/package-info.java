/** Proof that keeps itself fresh: when drills are due, which point and copy each takes, and what they show of the others. */
package hardproof.core.programmes;
