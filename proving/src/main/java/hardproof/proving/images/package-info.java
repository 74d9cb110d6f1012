/** Disk images: what their partition tables and file systems say, held to their own checksums. */
package hardproof.proving.images;
