/** Feeds that nobody exports: what lies on a store, read by its names. */
@org.jspecify.annotations.NullMarked
package hardproof.server.discovery;
