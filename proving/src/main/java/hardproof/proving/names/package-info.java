/** Names of files as archives, manifests and stores hold them: bytes, which need not be text. */
package hardproof.proving.names;
