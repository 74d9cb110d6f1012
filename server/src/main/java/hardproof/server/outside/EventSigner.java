package hardproof.server.outside;

import hardproof.server.signing.SigningKey;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Base64;

/**
 * Signs what is sent outside by Ed25519 (RFC 8032), so that whoever gets it can tell that it is from here.
 * The key is made at the first start and lies in the data folder, readable by its owner only.
 */
public final class EventSigner {
  /** Holds {@code ed25519=} and the signature of the body in base64. */
  public static final String HEADER = "Hard-Proof-Signature";

  private static final String NAME = "events";

  private final SigningKey key;

  private EventSigner(SigningKey key) {
    this.key = key;
  }

  /** Reads the key, or makes it. */
  public static EventSigner open(Path folder) throws IOException {
    return new EventSigner(
        SigningKey.exists(folder, NAME)
            ? SigningKey.read(folder, NAME)
            : SigningKey.make(folder, NAME));
  }

  /** The public key as PEM, for {@code openssl pkeyutl -verify -rawin}. */
  public String publicKeyPem() {
    return SigningKey.pem(key.publicKey());
  }

  /** The value of the header for a body. */
  public String sign(byte[] body) {
    return "ed25519=" + Base64.getEncoder().encodeToString(key.sign(body));
  }
}
