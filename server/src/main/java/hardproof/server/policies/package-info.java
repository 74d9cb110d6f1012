/** Policies, exceptions and selectors as people read and write them. */
package hardproof.server.policies;
