/** Read-only access to the stores that artifacts lie on. */
package hardproof.proving.stores;
