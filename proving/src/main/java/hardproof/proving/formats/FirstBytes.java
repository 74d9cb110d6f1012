package hardproof.proving.formats;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Optional;
import java.util.regex.Pattern;
import org.apache.commons.io.input.BoundedInputStream;
import org.jspecify.annotations.Nullable;

/** What an artifact is by how it begins, where its name does not say it, or says it of several. */
public final class FirstBytes {
  /** Enough for the first block of whatever compresses: one of lz4 may have 4 MiB. */
  private static final int MOST = 8 << 20;

  private static final int LOOKED_AT = 2048;

  /** The first line of a file of LDIF (RFC 2849). */
  private static final Pattern LDIF =
      Pattern.compile("(?i)^(#.*\\R)*(version: *1|dn:{1,2} ?\\S.*)\\R(?s:.*)");

  private FirstBytes() {}

  /**
   * Its format as the field {@code format} of copies has it; empty where it begins like nothing that is known, or is
   * encrypted.
   *
   * @param in is read as far as the first block of it, and not closed
   */
  public static Optional<String> format(InputStream in) throws IOException {
    byte[] head = in.readNBytes(LOOKED_AT);
    Compression compression = Compression.of(head);
    InputStream whole = BoundedInputStream.builder()
        .setInputStream(new SequenceInputStream(new ByteArrayInputStream(head), in))
        .setMaxCount(MOST)
        .setPropagateClose(false)
        .get();
    byte[] content = compression == Compression.NONE ? head : unpacked(compression, whole);
    String code = content(content);
    return code == null
        ? Optional.empty()
        : ArtifactFormat.named(code + compression.suffix()).map(ArtifactFormat::code);
  }

  /** Its beginning, as far as it can be unpacked. */
  private static byte[] unpacked(Compression compression, InputStream whole) {
    byte[] content = new byte[LOOKED_AT];
    int n = 0;
    try (InputStream in = compression.content(whole)) {
      int more;
      while (n < content.length && (more = in.read(content, n, content.length - n)) > 0) {
        n += more;
      }
    } catch (IOException | RuntimeException e) {
      // What came before counts.
    }
    return Arrays.copyOf(content, n);
  }

  private static @Nullable String content(byte[] head) {
    Magic found = Magic.of(head);
    if (found == null) {
      return dump(
          new String(head, 0, Math.min(head.length, LOOKED_AT), StandardCharsets.ISO_8859_1));
    }
    return switch (found) {
      case TAR -> "tar";
      case ZIP -> "zip";
      case SEVEN_ZIP -> "7z";
      case SQLITE -> "sqlite";
      case QCOW2 -> "qcow2";
      case VMDK -> "vmdk";
      case VHD -> "vhd";
      case VDI -> "vdi";
      case VHDX -> "vhdx";
      case PGDUMP -> "pgdump";
      default -> null;
    };
  }

  private static @Nullable String dump(String head) {
    for (DumpMark mark : DumpMark.values()) {
      if (mark.isOf(head)) {
        return mark.code();
      }
    }
    return LDIF.matcher(head).matches() ? "ldif" : null;
  }
}
