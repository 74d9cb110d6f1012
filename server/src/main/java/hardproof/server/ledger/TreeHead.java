package hardproof.server.ledger;

import hardproof.core.ledger.Digest;
import hardproof.server.signing.SigningKey;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.Base64;
import java.util.Map;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * So many entries the ledger had at a time, and the root over them; signed. Whoever keeps one can tell later whether
 * anything of what was there has been changed.
 *
 * @param body the canonical JSON that the signature is over
 * @param signature Ed25519
 * @param publicKey as {@link SigningKey#publicKey}
 */
public record TreeHead(
    long size, Digest root, Instant at, String body, byte[] signature, byte[] publicKey) {
  private static final String NONE = "no head of a ledger: ";
  private static final JsonMapper JSON = JsonMapper.builder().build();

  static TreeHead sign(long size, Digest root, Instant at, SigningKey key) {
    String body = CanonicalJson.of(Map.of(
        "size", size,
        "root", root.toString(),
        "at", at.toString(),
        "key", SigningKey.fingerprint(key.publicKey())));
    return new TreeHead(
        size, root, at, body, key.sign(body.getBytes(StandardCharsets.UTF_8)), key.publicKey());
  }

  /**
   * One that was kept.
   *
   * @throws IllegalArgumentException where the body is none of a head
   */
  public static TreeHead of(String body, byte[] signature, byte[] publicKey) {
    try {
      JsonNode read = JSON.readTree(body);
      return new TreeHead(
          read.required("size").asLong(),
          Digest.of(read.required("root").asString()),
          Instant.parse(read.required("at").asString()),
          body,
          signature,
          publicKey);
    } catch (JacksonException e) {
      throw new IllegalArgumentException(NONE + e.getOriginalMessage(), e);
    } catch (DateTimeException | IllegalArgumentException e) {
      throw new IllegalArgumentException(NONE + e.getMessage(), e);
    }
  }

  /** Whether the signature is of this head, by its key. */
  public boolean verifies() {
    return SigningKey.verifies(publicKey, body.getBytes(StandardCharsets.UTF_8), signature);
  }

  /** One file with all that a witness keeps. */
  public String file() {
    return CanonicalJson.of(Map.of(
            "head", body,
            "signature", Base64.getEncoder().encodeToString(signature),
            "public_key", SigningKey.pem(publicKey)))
        + "\n";
  }

  /**
   * A head as {@link #file} wrote it.
   *
   * @throws IllegalArgumentException where it is none
   */
  public static TreeHead read(String file) {
    try {
      JsonNode read = JSON.readTree(file);
      return of(
          read.required("head").asString(),
          Base64.getDecoder().decode(read.required("signature").asString()),
          SigningKey.ofPem(read.required("public_key").asString()));
    } catch (JacksonException e) {
      throw new IllegalArgumentException(NONE + e.getOriginalMessage(), e);
    } catch (IllegalArgumentException e) {
      String message = String.valueOf(e.getMessage());
      throw message.startsWith(NONE) ? e : new IllegalArgumentException(NONE + message, e);
    }
  }
}
