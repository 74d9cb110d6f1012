package hardproof.proving.checksums;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.function.LongConsumer;

/** SHA-256 (FIPS 180-4) of streams, in lower-case hexadecimal. */
public final class Sha256 {
  /** Large enough that calls cost nothing beside hashing; larger ones measured no faster. */
  public static final int BUFFER_BYTES = 1 << 18;

  private Sha256() {}

  public static MessageDigest digest() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform must have SHA-256", e);
    }
  }

  public static String hex(byte[] digest) {
    return HexFormat.of().formatHex(digest);
  }

  public static String of(byte[] bytes) {
    return hex(digest().digest(bytes));
  }

  public static String of(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return of(in, n -> {});
    }
  }

  /**
   * Reads to the end.
   *
   * @param read told the number of bytes of every piece read
   */
  public static String of(InputStream in, LongConsumer read) throws IOException {
    MessageDigest digest = digest();
    byte[] buffer = new byte[BUFFER_BYTES];
    int n;
    while ((n = in.read(buffer)) >= 0) {
      digest.update(buffer, 0, n);
      read.accept(n);
    }
    return hex(digest.digest());
  }
}
