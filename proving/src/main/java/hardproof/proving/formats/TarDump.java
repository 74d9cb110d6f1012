package hardproof.proving.formats;

import hardproof.core.points.Form;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Optional;

/**
 * The lists of folders in a tar that GNU tar wrote with {@code --listed-incremental}: of each folder what was in it, and
 * of each of these whether it is in the archive ({@code Y}), is not as it had not changed ({@code N}), or is a folder
 * ({@code D}). In entries of type {@code D}, or in the keyword {@code GNU.dumpdir} of a pax header. By the manual of GNU
 * tar, "Dumpdir" and "Extensions to the archive format".
 */
final class TarDump {
  private static final int BLOCK = 512;
  private static final int TYPE = 156;
  private static final int SIZE = 124;
  private static final int SIZE_LENGTH = 12;

  /** A list of one folder, or the attributes of one entry. */
  private static final int LARGEST = 4 << 20;

  private static final byte[] KEYWORD = "GNU.dumpdir=".getBytes(StandardCharsets.US_ASCII);

  private final InputStream in;
  private long kept;
  private long leftOut;

  TarDump(InputStream in) {
    this.in = in;
  }

  /**
   * What it is, as far as it can be read: an increment leaves out more than it has. One that leaves out little may be a
   * full that stayed on its file system; one that leaves out nothing is a full when it was read to its end. Of others
   * nobody knows.
   */
  Optional<Form> form() {
    boolean whole = read();
    if (leftOut > kept) {
      return Optional.of(Form.INCREMENTAL);
    }
    return whole && leftOut == 0 && kept > 0 ? Optional.of(Form.FULL) : Optional.empty();
  }

  /** Whether its end was reached. */
  private boolean read() {
    try {
      for (byte[] header = in.readNBytes(BLOCK);
          header.length == BLOCK;
          header = in.readNBytes(BLOCK)) {
        if (header[TYPE] == 0 && header[0] == 0) {
          return true;
        }
        long size = size(header);
        boolean tells = header[TYPE] == 'D' || header[TYPE] == 'x';
        if (tells && size <= LARGEST) {
          byte[] content = in.readNBytes((int) size);
          in.skipNBytes(padding(size));
          count(header[TYPE] == 'D' ? content : keyword(content));
        } else {
          in.skipNBytes(size + padding(size));
        }
      }
    } catch (IOException | NumberFormatException e) {
      // It is cut off here, as only its beginning is read, or is none: nobody knows what comes.
    }
    return false;
  }

  private static long padding(long size) {
    return (BLOCK - size % BLOCK) % BLOCK;
  }

  /** In octal digits; where there are more the first byte says so, and the rest is binary. */
  private static long size(byte[] header) throws IOException {
    if ((header[SIZE] & 0x80) != 0) {
      long size = 0;
      for (int i = SIZE + 1; i < SIZE + SIZE_LENGTH; i++) {
        size = size << 8 | header[i] & 0xff;
      }
      if (size < 0) {
        throw new IOException("a size that no file has");
      }
      return size;
    }
    String digits = new String(header, SIZE, SIZE_LENGTH, StandardCharsets.US_ASCII)
        .replace('\0', ' ')
        .strip();
    return digits.isEmpty() ? 0 : Long.parseLong(digits, 8);
  }

  /** The value of the keyword among records of a pax header; empty where it is not there. */
  private static byte[] keyword(byte[] records) {
    for (int at = 0; at + KEYWORD.length <= records.length; at++) {
      if (Arrays.equals(records, at, at + KEYWORD.length, KEYWORD, 0, KEYWORD.length)) {
        return Arrays.copyOfRange(records, at + KEYWORD.length, records.length);
      }
    }
    return new byte[0];
  }

  /** Names, each behind its letter and before a zero; another zero ends them. */
  private void count(byte[] list) {
    for (int at = 0; at < list.length && list[at] != 0; at++) {
      kept += list[at] == 'Y' ? 1 : 0;
      leftOut += list[at] == 'N' ? 1 : 0;
      while (at < list.length && list[at] != 0) {
        at++;
      }
    }
  }
}
