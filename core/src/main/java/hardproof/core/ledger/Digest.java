package hardproof.core.ledger;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.HexFormat;

/** A SHA-256 of a Merkle tree. Immutable. */
public final class Digest {
  /** The root over no entries. */
  public static final Digest OF_NOTHING = new Digest(sha256().digest());

  private static final byte LEAF = 0;
  private static final byte NODE = 1;
  private static final int LENGTH = 32;

  private final byte[] bytes;

  private Digest(byte[] bytes) {
    this.bytes = bytes;
  }

  /**
   * One that was written in hexadecimal.
   *
   * @throws IllegalArgumentException where that is none
   */
  public static Digest of(String hex) {
    byte[] bytes = HexFormat.of().parseHex(hex);
    if (bytes.length != LENGTH) {
      throw new IllegalArgumentException("'" + hex + "' is no SHA-256: it has 64 digits");
    }
    return new Digest(bytes);
  }

  /** Of an entry (RFC 9162, 2.1.1): a byte before it keeps it from being taken for two hashes. */
  public static Digest leaf(byte[] entry) {
    MessageDigest sha256 = sha256();
    sha256.update(LEAF);
    return new Digest(sha256.digest(entry));
  }

  /** Of an entry that is text. */
  public static Digest leaf(String entry) {
    return leaf(entry.getBytes(StandardCharsets.UTF_8));
  }

  /** Of two that stand side by side. */
  public static Digest node(Digest left, Digest right) {
    MessageDigest sha256 = sha256();
    sha256.update(NODE);
    sha256.update(left.bytes);
    return new Digest(sha256.digest(right.bytes));
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  /** 64 hexadecimal digits. */
  @Override
  public String toString() {
    return HexFormat.of().formatHex(bytes);
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof Digest d && Arrays.equals(bytes, d.bytes);
  }

  @Override
  public int hashCode() {
    return Arrays.hashCode(bytes);
  }
}
