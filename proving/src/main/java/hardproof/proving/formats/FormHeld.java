package hardproof.proving.formats;

import hardproof.core.points.Form;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.commons.io.input.BoundedInputStream;

/**
 * Whether an artifact stands alone by what it holds, where its format tells: a disk by whether it names another that it
 * rests on, a tar by the lists of folders that GNU tar writes into its dumps.
 */
public final class FormHeld {
  /** Some thousand folders of a tar: many artifacts are looked at, each a little. */
  private static final int MOST = 1 << 20;

  private static final int HEAD = 64 << 10;

  /** The field {@code backing_file_offset} of a header of qcow2, version 2 and 3: big end first. */
  private static final int QCOW2_BACKING = 8;

  /** The field for the type of a disk of a VHD, of which 4 is one of differences to a parent: big end first. */
  private static final int VHD_TYPE = 60;

  private static final int VHD_DIFFERENCES = 4;

  /** In the description of a VMDK; all ones where it has no parent. */
  private static final Pattern PARENT = Pattern.compile("(?m)^parentCID=([0-9a-fA-F]+)\\s*$");

  private FormHeld() {}

  /**
   * {@link Form#FULL} where it stands alone, {@link Form#INCREMENTAL} where it rests on another; empty where it does not
   * tell, or not as far as it is read.
   *
   * @param in is read a little, and not closed
   */
  public static Optional<Form> of(InputStream in) throws IOException {
    byte[] head = in.readNBytes(HEAD);
    InputStream whole = BoundedInputStream.builder()
        .setInputStream(new SequenceInputStream(new ByteArrayInputStream(head), in))
        .setMaxCount(MOST)
        .setPropagateClose(false)
        .get();
    Compression compression = Compression.of(head);
    if (compression == Compression.NONE) {
      return content(head, whole);
    }
    try (InputStream content = compression.content(whole)) {
      byte[] unpacked = read(content);
      return content(
          unpacked, new SequenceInputStream(new ByteArrayInputStream(unpacked), content));
    } catch (IOException | RuntimeException e) {
      return Optional
          .empty(); // As far as it is read it can't be unpacked: a drill says what is wrong.
    }
  }

  /** As much of the head as there is: what is bounded breaks off. */
  private static byte[] read(InputStream content) {
    byte[] head = new byte[HEAD];
    int n = 0;
    try {
      for (int more; n < HEAD && (more = content.read(head, n, HEAD - n)) > 0; ) {
        n += more;
      }
    } catch (IOException e) {
      // What came before counts.
    }
    return java.util.Arrays.copyOf(head, n);
  }

  private static Optional<Form> content(byte[] head, InputStream whole) throws IOException {
    Magic found = Magic.of(head);
    if (found == null) {
      return parent(head);
    }
    return switch (found) {
      case TAR -> new TarDump(whole).form();
      case QCOW2 -> standsAlone(head, QCOW2_BACKING, Long.BYTES, 0);
      case VHD ->
        head.length < VHD_TYPE + Integer.BYTES
            ? Optional.empty()
            : Optional.of(
                ByteBuffer.wrap(head).getInt(VHD_TYPE) == VHD_DIFFERENCES
                    ? Form.INCREMENTAL
                    : Form.FULL);
      case VMDK -> parent(head);
      default -> Optional.empty();
    };
  }

  private static Optional<Form> standsAlone(byte[] head, int at, int bytes, long alone) {
    return head.length < at + bytes
        ? Optional.empty()
        : Optional.of(ByteBuffer.wrap(head).getLong(at) == alone ? Form.FULL : Form.INCREMENTAL);
  }

  private static Optional<Form> parent(byte[] head) {
    Matcher parent = PARENT.matcher(new String(head, StandardCharsets.ISO_8859_1));
    return parent.find()
        ? Optional.of(parent.group(1).equalsIgnoreCase("ffffffff") ? Form.FULL : Form.INCREMENTAL)
        : Optional.empty();
  }
}
