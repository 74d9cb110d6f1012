/** How stores are reached from here, and what they themselves say lies on them. */
@org.jspecify.annotations.NullMarked
package hardproof.server.stores;
