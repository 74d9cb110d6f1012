/** What the Board says of a workload in one line. */
package hardproof.core.board;
