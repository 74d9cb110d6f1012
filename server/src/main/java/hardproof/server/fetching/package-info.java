/** Feeds that come by themselves: fetched from an address, or delivered by whoever has a token. */
package hardproof.server.fetching;
