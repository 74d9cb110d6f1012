/** The ledger: what has happened, in order, as leaves of a Merkle tree whose heads are signed. */
package hardproof.server.ledger;
