/** Keys that sign what leaves this installation. */
package hardproof.server.signing;
