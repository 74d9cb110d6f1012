/** Folders that restored data may be written to, and that are removed again. */
package hardproof.proving.sandboxes;
