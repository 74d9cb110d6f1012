/** Finds anything by what it is called. */
package hardproof.core.lookup;
