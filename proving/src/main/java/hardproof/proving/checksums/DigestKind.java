package hardproof.proving.checksums;

import java.io.IOException;
import java.io.InputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.Locale;
import java.util.Optional;
import java.util.function.LongConsumer;

/** Digests that manifests come with, the strongest first. */
public enum DigestKind {
  SHA512("SHA-512", 128, false),
  SHA384("SHA-384", 96, false),
  SHA256("SHA-256", 64, false),
  SHA224("SHA-224", 56, false),
  SHA1("SHA-1", 40, true),
  MD5("MD5", 32, true);

  private final String algorithm;
  private final int hexLength;
  private final boolean weak;

  DigestKind(String algorithm, int hexLength, boolean weak) {
    this.algorithm = algorithm;
    this.hexLength = hexLength;
    this.weak = weak;
  }

  public String algorithm() {
    return algorithm;
  }

  public int hexLength() {
    return hexLength;
  }

  /** Finds accidents, but not an intruder: others with the same digest can be made. */
  public boolean weak() {
    return weak;
  }

  /** By the name that stands in {@code manifest-NAME.txt} (RFC 8493, 2.4): {@code sha256}. */
  public static Optional<DigestKind> named(String name) {
    return Arrays.stream(values())
        .filter(k -> k.name().toLowerCase(Locale.ROOT).equals(name))
        .findFirst();
  }

  /** By the number of hexadecimal digits; empty when none has so many. */
  public static Optional<DigestKind> ofLength(int hexLength) {
    return Arrays.stream(values()).filter(k -> k.hexLength == hexLength).findFirst();
  }

  /**
   * Reads to the end.
   *
   * @param read told the number of bytes of every piece read
   * @return lower-case hexadecimal
   */
  public String of(InputStream in, LongConsumer read) throws IOException {
    MessageDigest digest = digest();
    byte[] buffer = new byte[Sha256.BUFFER_BYTES];
    int n;
    while ((n = in.read(buffer)) >= 0) {
      digest.update(buffer, 0, n);
      read.accept(n);
    }
    return HexFormat.of().formatHex(digest.digest());
  }

  public MessageDigest digest() {
    try {
      return MessageDigest.getInstance(algorithm);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform must have " + algorithm, e);
    }
  }
}
