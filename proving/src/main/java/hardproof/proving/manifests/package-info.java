/** Comparing what was restored with what should be there. */
package hardproof.proving.manifests;
