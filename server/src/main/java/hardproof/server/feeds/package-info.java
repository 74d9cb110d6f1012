/** Facts in: reading bundles, showing what they would change, taking them, and what was rejected. */
package hardproof.server.feeds;
