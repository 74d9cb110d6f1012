/** Searches for the newest good point, by halving. */
package hardproof.server.searches;
