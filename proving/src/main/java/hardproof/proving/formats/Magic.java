package hardproof.proving.formats;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * What bytes look like by how they begin. The patterns are those of the formats' own descriptions:
 * RFC 1952 (gzip), RFC 8878 (zstd), POSIX ustar, APPNOTE (zip), the SQLite file format, qcow2 and vmdk
 * as QEMU documents them, RFC 9580 (OpenPGP, armoured), the age format, LUKS, and OpenSSL's enc.
 */
public enum Magic {
  GZIP("a gzip file", false, 0, 0x1f, 0x8b),
  ZSTD("a zstd file", false, 0, 0x28, 0xb5, 0x2f, 0xfd),
  XZ("an xz file", false, 0, 0xfd, '7', 'z', 'X', 'Z', 0),
  BZIP2("a bzip2 file", false, 0, 'B', 'Z', 'h'),
  ZIP("a zip file", false, 0, 'P', 'K', 3, 4),
  TAR("a tar file", false, 257, 'u', 's', 't', 'a', 'r'),
  SQLITE("a SQLite database", false, 0, text("SQLite format 3\0")),
  QCOW2("a qcow2 image", false, 0, 'Q', 'F', 'I', 0xfb),
  VMDK("a vmdk image", false, 0, 'K', 'D', 'M', 'V'),
  PGP("an OpenPGP message", true, 0, text("-----BEGIN PGP MESSAGE")),
  AGE("an age file", true, 0, text("age-encryption.org/")),
  LUKS("a LUKS volume", true, 0, 'L', 'U', 'K', 'S', 0xba, 0xbe),
  SALTED("a file of openssl enc", true, 0, text("Salted__"));

  /** Bytes from the beginning that are enough to tell. */
  public static final int BYTES = 512;

  private final String words;
  private final boolean encrypted;
  private final int offset;
  private final int[] bytes;

  Magic(String words, boolean encrypted, int offset, int... bytes) {
    this.words = words;
    this.encrypted = encrypted;
    this.offset = offset;
    this.bytes = bytes;
  }

  private static int[] text(String text) {
    byte[] bytes = text.getBytes(StandardCharsets.US_ASCII);
    int[] numbers = new int[bytes.length];
    Arrays.setAll(numbers, i -> bytes[i]);
    return numbers;
  }

  private boolean matches(byte[] head) {
    if (head.length < offset + bytes.length) {
      return false;
    }
    for (int i = 0; i < bytes.length; i++) {
      if ((head[offset + i] & 0xff) != bytes[i]) {
        return false;
      }
    }
    return true;
  }

  /** What it looks like; null when it is nothing known. */
  static Magic of(byte[] head) {
    return Arrays.stream(values()).filter(m -> m.matches(head)).findFirst().orElse(null);
  }

  /**
   * Why bytes that begin like {@code head} can't be of a format, in words that follow a name; null when
   * they may be.
   */
  public static String objection(byte[] head, ArtifactFormat format) {
    if (head.length == 0) {
      return "is empty";
    }
    Magic found = of(head);
    if (found != null && found.encrypted) {
      return "is encrypted (" + found.words + "), and no key is known here";
    }
    Magic wanted = switch (format.compression()) {
      case GZIP -> GZIP;
      case ZSTD -> ZSTD;
      case NONE ->
        switch (format.packing()) {
          case ZIP -> ZIP;
          // An old tar has no magic, and a disk may begin with anything.
          case TAR, FOLDER -> null;
          case SINGLE -> single(format.content());
        };
    };
    boolean other = wanted == null
        ? found != null && found != TAR && format.packing() == Packing.TAR
        : found != wanted;
    if (!other) {
      return null;
    }
    return "is said to be " + format.code() + " but "
        + (found == null ? "does not begin like one" : "begins like " + found.words);
  }

  private static Magic single(Content content) {
    return switch (content) {
      case SQLITE -> SQLITE;
      case QCOW2 -> QCOW2;
      case VMDK -> VMDK;
      default -> null;
    };
  }
}
