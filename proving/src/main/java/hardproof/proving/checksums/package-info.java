/** Checksums of streams, and lists of them in open formats. */
package hardproof.proving.checksums;
