/** What is left after a loss. */
package hardproof.server.survival;
