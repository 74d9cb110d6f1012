/** How long it takes to get something back. */
package hardproof.core.recovery;
