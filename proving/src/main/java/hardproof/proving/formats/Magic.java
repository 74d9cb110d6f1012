package hardproof.proving.formats;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * What bytes look like by how they begin. The patterns are those of the formats' own descriptions:
 * RFC 1952 (gzip), RFC 8878 (zstd), the frame format of lz4, POSIX ustar, APPNOTE (zip), the SQLite file format, qcow2 and vmdk
 * as QEMU documents them, RFC 9580 (OpenPGP, armoured), the age format, LUKS, and OpenSSL's enc. Where a
 * number is -1, any byte stands.
 */
public enum Magic {
  GZIP("a gzip file", false, 0, 0x1f, 0x8b),
  ZSTD("a zstd file", false, 0, 0x28, 0xb5, 0x2f, 0xfd),
  XZ("an xz file", false, 0, 0xfd, '7', 'z', 'X', 'Z', 0),
  BZIP2("a bzip2 file", false, 0, 'B', 'Z', 'h'),
  LZ4("an lz4 file", false, 0, 0x04, 0x22, 0x4d, 0x18),
  OLD_LZ4("an lz4 file of the older form", false, 0, 0x02, 0x21, 0x4c, 0x18),
  LZMA("an lzma file", false, 0, 0x5d, 0, 0, -1, -1, 255, 255, 255, 255, 255, 255, 255, 255),
  LZIP("an lzip file", false, 0, text("LZIP")),
  COMPRESS("a file of compress", false, 0, 0x1f, 0x9d, 0x90),
  RAR("a rar archive", false, 0, text("Rar!")),
  SEVEN_ZIP("a 7z archive", false, 0, '7', 'z', 0xbc, 0xaf, 0x27, 0x1c),
  ZIP("a zip file", false, 0, 'P', 'K', 3, 4),
  TAR("a tar file", false, 257, 'u', 's', 't', 'a', 'r'),
  SQLITE("a SQLite database", false, 0, text("SQLite format 3\0")),
  QCOW2("a qcow2 image", false, 0, 'Q', 'F', 'I', 0xfb),
  VMDK("a vmdk image", false, 0, 'K', 'D', 'M', 'V'),
  VMDK_DESCRIPTION("the description of a vmdk image", false, 0, text("# Disk DescriptorFile")),
  VHD("a vhd image", false, 0, text("conectix")),
  QED("a qed image", false, 0, 'Q', 'E', 'D', 0),
  PARALLELS("an image that QEMU calls parallels", false, 0, text("WithoutFreeSpace")),
  PARALLELS_EXT("an image that QEMU calls parallels", false, 0, text("WithouFreSpacExt")),
  PARTCLONE("an image of partclone", false, 0, text("partclone-image")),
  NTFSCLONE("an image of ntfsclone", false, 0, text("\0ntfsclone-image")),
  WIM("a wim image", false, 0, text("MSWIM\0\0\0")),
  VDI("a vdi image", false, 64, 0x7f, 0x10, 0xda, 0xbe),
  VHDX("a vhdx image", false, 0, text("vhdxfile")),
  PGDUMP("an archive of pg_dump", false, 0, text("PGDMP")),
  PGP("an OpenPGP message", true, 0, text("-----BEGIN PGP MESSAGE")),
  AGE("an age file", true, 0, text("age-encryption.org/")),
  LUKS("a LUKS volume", true, 0, 'L', 'U', 'K', 'S', 0xba, 0xbe),
  AGE_LINES("an age file in lines of text", true, 0, text("-----BEGIN AGE ENCRYPTED FILE")),
  SALTED("a file of openssl enc", true, 0, text("Salted__")),
  SALTED_LINES("a file of openssl enc in lines of base64", true, 0, text("U2FsdGVkX1"));

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
      if (bytes[i] != -1 && (head[offset + i] & 0xff) != bytes[i]) {
        return false;
      }
    }
    return true;
  }

  /** How bytes that begin so are encrypted; null when they don't look as if they were. */
  public static Magic encrypted(byte[] head, ArtifactFormat format) {
    Magic found = of(head);
    if (found != null && found.encrypted) {
      return found;
    }
    return found == null && !format.content().disk() && binaryPgp(head) ? PGP : null;
  }

  /** Whether it begins like anything that is known. */
  public static boolean known(byte[] head) {
    return of(head) != null;
  }

  /** In words with an article. */
  public String words() {
    return words;
  }

  /** The first packet of an OpenPGP message that is not armoured (RFC 9580, 4.2, 5.1 and 5.3). */
  private static boolean binaryPgp(byte[] head) {
    if (head.length < 4) {
      return false;
    }
    int tag = head[0] & 0xff;
    int version = switch (tag) {
      case 0x84, 0x8c, 0xc1, 0xc3 -> head[2];
      case 0x85, 0x8d -> head[3];
      default -> 0;
    };
    boolean forKey = tag == 0x84 || tag == 0x85 || tag == 0xc1;
    return forKey ? version == 3 || version == 6 : version >= 4 && version <= 6;
  }

  /**
   * Compressed data of a known algorithm, or what announces a signature (RFC 9580, 5.6 and 5.4). No archive
   * begins with such bytes.
   */
  private static boolean openPgp(byte[] head) {
    return head.length > 2
        && ((head[0] & 0xff) == 0xa3 && head[1] >= 1 && head[1] <= 3
            || (head[0] & 0xff) == 0x90 && head[1] == 0x0d && head[2] == 3
            || (head[0] & 0xff) == 0xc4 && head[1] == 0x0d && head[2] == 3);
  }

  /** What it looks like; null when it is nothing known. */
  static Magic of(byte[] head) {
    return Arrays.stream(values()).filter(m -> m.matches(head)).findFirst().orElse(null);
  }

  /**
   * Holds the beginning of some bytes to their format.
   *
   * @throws NotReadHere when they are of another format, or encrypted: what is known of them is wrong or
   *     too little, and they may be right all the same
   * @throws IOException when they begin like nothing that is known
   */
  public static void accept(byte[] head, ArtifactFormat format) throws IOException {
    if (head.length == 0) {
      throw new IOException("it is empty");
    }
    Magic found = of(head);
    refuseEncrypted(head, format);
    Magic wanted = wanted(head, format, found);
    refuseOpenPgp(head, format, found);
    boolean other = wanted == null ? another(found, format) : found != wanted;
    if (!other) {
      return;
    }
    refuseOther(format, found);
    throw new IOException("it is said to be " + format.code() + " but does not begin like one");
  }

  private static void refuseEncrypted(byte[] head, ArtifactFormat format) throws NotReadHere {
    Magic sealed = encrypted(head, format);
    if (sealed != null) {
      throw new NotReadHere(
          "it is encrypted (" + sealed.words + "), and no key for it is known here");
    }
  }

  private static Magic wanted(byte[] head, ArtifactFormat format, Magic found) {
    Magic wanted = switch (format.compression()) {
      case GZIP -> GZIP;
      case ZSTD -> skippable(head) ? found : ZSTD;
      case XZ -> XZ;
      case BZIP2 -> BZIP2;
      case LZ4 -> skippable(head) ? found : LZ4;
      case NONE ->
        switch (format.packing()) {
          case SEVEN_ZIP -> SEVEN_ZIP;
          // An old tar has no magic, a zip may begin with a program, and a disk with anything.
          case TAR, CPIO, ZIP, FOLDER -> null;
          case SINGLE -> single(format.content());
        };
    };
    return wanted;
  }

  private static void refuseOpenPgp(byte[] head, ArtifactFormat format, Magic found)
      throws NotReadHere {
    if (found == null && !format.content().disk() && openPgp(head)) {
      throw new NotReadHere(
          "it begins like an OpenPGP message that is signed or compressed and not encrypted:"
              + " bring it without");
    }
  }

  private static void refuseOther(ArtifactFormat format, Magic found) throws NotReadHere {
    if (found != null) {
      throw new NotReadHere("it is said to be " + format.code() + " but begins like " + found.words
          + ": correct the field format of the copy");
    }
  }

  /** What has no mark of its own may begin with anything but with the mark of something else. */
  private static boolean another(Magic found, ArtifactFormat format) {
    if (found == null || found == TAR) {
      return false;
    }
    return switch (format.packing()) {
      case ZIP -> found != ZIP;
      case FOLDER -> false;
      case SINGLE -> anotherContent(found, format);
      default -> true;
    };
  }

  private static boolean anotherContent(Magic found, ArtifactFormat format) {
    return switch (format.content()) {
      case PGDUMP -> found != PGDUMP;
      case VMDK -> found != VMDK && found != VMDK_DESCRIPTION;
      case VHD -> found != VHD;
      default -> true;
    };
  }

  /** A frame that is skipped, as pzstd begins with one (RFC 8878, 3.1.2; lz4 has the same). */
  private static boolean skippable(byte[] head) {
    return head.length >= 4
        && (head[0] & 0xf0) == 0x50
        && (head[1] & 0xff) == 0x2a
        && (head[2] & 0xff) == 0x4d
        && (head[3] & 0xff) == 0x18;
  }

  private static Magic single(Content content) {
    return switch (content) {
      case SQLITE -> SQLITE;
      case QCOW2 -> QCOW2;
      case VDI -> VDI;
      case VHDX -> VHDX;
      default -> null;
    };
  }
}
