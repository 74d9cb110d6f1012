/** What is left after a loss, from when, and how soon it is back. */
package hardproof.core.survival;
