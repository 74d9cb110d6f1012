package hardproof.server.stores;

import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import hardproof.proving.stores.ArtifactStore;
import hardproof.proving.stores.ObjectAddress;
import hardproof.proving.stores.ObjectKey;
import hardproof.proving.stores.ObjectStore;
import hardproof.proving.stores.PacedStore;
import hardproof.proving.stores.SftpAddress;
import hardproof.proving.stores.SftpKey;
import hardproof.proving.stores.SftpStore;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * How a store is reached that is no folder here.
 *
 * @param object null unless it is an object store
 * @param sftp null unless it is reached by SFTP
 * @param bytesPerSecond at most so much is read of it, by everything together; null for as fast as it can
 */
record Connection(
    String store,
    Kind kind,
    @Nullable ObjectAddress object,
    @Nullable String keyId,
    @Nullable SftpAddress sftp,
    @Nullable Long bytesPerSecond,
    Instant changedAt,
    String changedBy) {
  private static final long LEAST_RATE = 1000;

  Connection {
    if (bytesPerSecond != null && bytesPerSecond < LEAST_RATE) {
      throw new WrongValue("a store is read at least at 1,000 bytes a second");
    }
  }

  /** By what it is spoken with. */
  enum Kind implements Coded {
    OBJECT_STORE,
    SFTP
  }

  /**
   * What opens it; each null where its kind needs none.
   */
  record Secret(
      @Nullable String secret,
      @Nullable String token,
      @Nullable String password,
      @Nullable String privateKey,
      @Nullable String passphrase) {
    @Override
    public String toString() {
      return "a secret";
    }

    boolean empty() {
      return secret == null && password == null && privateKey == null;
    }
  }

  /** For people: where it is. */
  String words() {
    return object != null ? object.words() : sftp.words();
  }

  /**
   * Speaks with it; whoever asks closes it where it is {@link AutoCloseable}.
   *
   * @throws WrongValue where what was given can't be what it is said to be
   */
  ArtifactStore open(Secret secret) {
    return kind == Kind.OBJECT_STORE
        ? new ObjectStore(object, new ObjectKey(keyId, secret.secret(), secret.token()))
        : new SftpStore(
            sftp, new SftpKey(secret.password(), secret.privateKey(), secret.passphrase()));
  }

  /** The same, read no faster than it may be. */
  ArtifactStore paced(ArtifactStore opened) {
    return bytesPerSecond == null ? opened : new PacedStore(opened, bytesPerSecond);
  }
}
