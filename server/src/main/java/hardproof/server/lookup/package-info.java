/** One field over everything. */
package hardproof.server.lookup;
