/** Container applications in a bundle: objects as YAML and an archive for each volume. */
package hardproof.proving.applications;
