/** Restored files: asking them, and comparing them. */
package hardproof.proving.files;
