/** Copies of recovery points on stores: their state, the 3-2-1-1-0 count, and their lag. */
package hardproof.core.copies;
