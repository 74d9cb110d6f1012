package hardproof.server.stores;

import hardproof.core.wording.WrongValue;
import hardproof.proving.stores.ObjectAddress;
import hardproof.proving.stores.SftpAddress;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A connection as a person writes it. What opens the store is left out where it stays as it was.
 *
 * @param pathStyle whether the bucket stands in the path; true where it is left out
 * @param bytesPerSecond at most so much is read; absent for as fast as it can
 */
record ConnectionDraft(
    Connection.@NotNull Kind kind,
    @Nullable String endpoint,
    @Nullable String region,
    @Nullable String bucket,
    @Nullable String prefix,
    @Nullable Boolean pathStyle,
    @Nullable @Size(max = 65_536) String ca,
    @Nullable String keyId,
    @Nullable String host,
    @Nullable Integer port,
    @Nullable String user,
    @Nullable String folder,
    @Nullable @Size(max = 65_536) String hostKeys,
    @Nullable Long bytesPerSecond,
    @Nullable SecretDraft secret) {
  private static final int SSH = 22;

  /** What opens it. Taken, and never told again. */
  record SecretDraft(
      @Nullable @Size(max = 4_096) String secret,
      @Nullable @Size(max = 16_384) String token,
      @Nullable @Size(max = 4_096) String password,
      @Nullable @Size(max = 65_536) String privateKey,
      @Nullable @Size(max = 4_096) String passphrase) {
    @Override
    public String toString() {
      return "a secret";
    }

    Connection.Secret whole() {
      return new Connection.Secret(
          none(secret), none(token), none(password), none(privateKey), none(passphrase));
    }
  }

  private static @Nullable String none(@Nullable String text) {
    return text == null || text.isBlank() ? null : text;
  }

  private static String need(@Nullable String text, String what) {
    if (text == null || text.isBlank()) {
      throw new WrongValue("there is no " + what);
    }
    return text;
  }

  /**
   * @throws WrongValue saying what is missing or can't be
   */
  Connection connection(String store, String by, Instant now) {
    boolean object = kind == Connection.Kind.OBJECT_STORE;
    return new Connection(
        store,
        kind,
        object
            ? ObjectAddress.of(
                need(endpoint, "endpoint"),
                region == null ? "" : region,
                need(bucket, "bucket"),
                prefix,
                !Boolean.FALSE.equals(pathStyle),
                ca)
            : null,
        object ? need(keyId, "key") : null,
        object
            ? null
            : SftpAddress.of(
                need(host, "host"),
                port == null ? SSH : port,
                need(user, "name to sign in by"),
                need(folder, "folder"),
                hostKeys == null ? "" : hostKeys),
        bytesPerSecond,
        now,
        by);
  }

  /**
   * What opens it: what was given, else what is kept for the same place.
   *
   * @throws WrongValue where there is neither
   */
  Connection.Secret opening(Connection wanted, @Nullable Connection kept, Kept secret) {
    Connection.Secret given = secret().whole();
    if (!given.empty()) {
      return given;
    }
    // A secret is not sent to where somebody else may listen: who changes the address gives it
    // anew.
    if (kept != null && samePlace(wanted, kept)) {
      try {
        return secret.kept();
      } catch (Secrets.Sealed e) {
        throw new WrongValue(e.getMessage(), e);
      }
    }
    throw new WrongValue(
        kept == null
            ? "there is nothing that opens the store: give its secret, a password or a private key"
            : "the store is at another place now: give what opens it anew");
  }

  /** Where the secret that is kept comes from. */
  interface Kept {
    Connection.Secret kept() throws Secrets.Sealed;
  }

  @Override
  public SecretDraft secret() {
    return secret == null ? new SecretDraft(null, null, null, null, null) : secret;
  }

  private static boolean samePlace(Connection a, Connection b) {
    if (a.kind() != b.kind()) {
      return false;
    }
    return a.object() != null
        ? a.object().endpoint().equals(b.object().endpoint()) && a.keyId().equals(b.keyId())
        : a.sftp().host().equals(b.sftp().host())
            && a.sftp().port() == b.sftp().port()
            && a.sftp().user().equals(b.sftp().user())
            && a.sftp().hostKeys().equals(b.sftp().hostKeys());
  }
}
