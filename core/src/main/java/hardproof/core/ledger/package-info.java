/** The Merkle tree over entries of the ledger, and the proofs that an outsider checks. */
package hardproof.core.ledger;
