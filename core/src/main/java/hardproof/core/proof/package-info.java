/** From outcomes to verdicts: one word for each workload, with its reason and what would change it. */
package hardproof.core.proof;
