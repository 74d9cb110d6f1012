/** The proof ladder: how strongly we know that something can be recovered. */
package hardproof.core.ladder;
