package hardproof.proving.stores;

import org.jspecify.annotations.Nullable;

/**
 * What a host is signed in to with: a password, or a private key with its passphrase where it has one.
 *
 * @param privateKey as OpenSSH or PEM write it
 */
public record SftpKey(
    @Nullable String password,
    @Nullable String privateKey,
    @Nullable String passphrase) {
  /** Nothing of a secret gets into a message or a log. */
  @Override
  public String toString() {
    return privateKey == null ? "a password" : "a private key";
  }
}
