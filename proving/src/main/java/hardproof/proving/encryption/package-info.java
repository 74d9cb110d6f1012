/** Opening what was encrypted, with keys that an administrator laid down. */
package hardproof.proving.encryption;
