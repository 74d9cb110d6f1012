package hardproof.proving.archives;

import hardproof.proving.names.EntryName;
import hardproof.proving.streams.Pieces;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;

/** The headers of a cpio archive in its forms, and what stands between them, as cpio(5) of the BSDs lays them out. */
final class CpioHeaders {
  private final InputStream in;
  private long at;

  CpioHeaders(InputStream in) {
    this.in = in;
  }

  /** Bytes that were read. */
  long at() {
    return at;
  }

  Content content(CpioHeader header) {
    return new Content(header);
  }

  /** What stands behind the last header, as of {@link InputStream#read(byte[])}. */
  int rest(byte[] buffer) throws IOException {
    return in.read(buffer);
  }

  CpioHeader next() throws IOException {
    byte[] magic = take(2);
    int first = magic[0] & 0xff;
    int second = magic[1] & 0xff;
    if (first == 0xc7 && second == 0x71 || first == 0x71 && second == 0xc7) {
      return binary(first == 0xc7);
    }
    String kind = new String(magic, StandardCharsets.ISO_8859_1)
        + new String(take(4), StandardCharsets.ISO_8859_1);
    return switch (kind) {
      case "070707" -> octets();
      case "070701", "070702" -> newer(kind.equals("070702"));
      default ->
        throw new BrokenArchive("at byte " + (at - 6) + " there is no header of a cpio archive");
    };
  }

  private CpioHeader newer(boolean summed) throws IOException {
    byte[] fields = take(104);
    long[] n = new long[13];
    for (int i = 0; i < n.length; i++) {
      n[i] = number(fields, 8 * i, 8, 16);
    }
    String name = name(n[11]);
    take((int) (-(110 + n[11]) & 3));
    return new CpioHeader(
        name,
        n[6],
        (int) n[1],
        n[4],
        n[7] + ":" + n[8] + ":" + n[0],
        Instant.ofEpochSecond(n[5]),
        n[9] + "," + n[10],
        (int) (-n[6] & 3),
        summed && ((int) n[1] & CpioHeader.TYPE) == 0100000 ? n[12] : -1);
  }

  private CpioHeader octets() throws IOException {
    byte[] f = take(70);
    long device = number(f, 36, 6, 8);
    String name = name(number(f, 53, 6, 8));
    return new CpioHeader(
        name,
        number(f, 59, 11, 8),
        (int) number(f, 12, 6, 8),
        number(f, 30, 6, 8),
        number(f, 0, 6, 8) + ":" + number(f, 6, 6, 8),
        Instant.ofEpochSecond(number(f, 42, 11, 8)),
        (device >> 8) + "," + (device & 0xff),
        0,
        -1);
  }

  private CpioHeader binary(boolean littleEndian) throws IOException {
    byte[] f = take(24);
    int[] n = new int[12];
    for (int i = 0; i < n.length; i++) {
      int low = f[2 * i + (littleEndian ? 0 : 1)] & 0xff;
      int high = f[2 * i + (littleEndian ? 1 : 0)] & 0xff;
      n[i] = high << 8 | low;
    }
    String name = name(n[9]);
    take(n[9] & 1);
    long size = (long) n[10] << 16 | n[11];
    return new CpioHeader(
        name,
        size,
        n[2],
        n[5],
        n[0] + ":" + n[1],
        Instant.ofEpochSecond((long) n[7] << 16 | n[8]),
        (n[6] >> 8) + "," + (n[6] & 0xff),
        (int) (size & 1),
        -1);
  }

  private static long number(byte[] bytes, int from, int length, int radix) throws BrokenArchive {
    String text = new String(bytes, from, length, StandardCharsets.ISO_8859_1);
    try {
      if (text.startsWith("+") || text.startsWith("-")) {
        throw new NumberFormatException(text);
      }
      return Long.parseLong(text, radix);
    } catch (NumberFormatException e) {
      throw new BrokenArchive("a header of the cpio archive has a field that is no number", e);
    }
  }

  private String name(long length) throws IOException {
    if (length > PaxRecords.LONGEST_NAME) {
      throw new HostileArchive(
          EntryName.of(take(60)) + "…",
          "has a name of " + length + " bytes: no file system takes that");
    }
    if (length < 1) {
      throw new BrokenArchive("a header of the cpio archive has no name");
    }
    return EntryName.of(take((int) length), 0, (int) length - 1);
  }

  private byte[] take(int length) throws IOException {
    byte[] bytes = in.readNBytes(length);
    at += bytes.length;
    if (bytes.length < length) {
      throw new BrokenArchive("the cpio archive is cut off at byte " + at);
    }
    return bytes;
  }

  /** The bytes of one entry. */
  final class Content extends Pieces {
    private final CpioHeader header;
    private long left;
    private long sum;
    private boolean padded;

    private Content(CpioHeader header) {
      this.header = header;
      this.left = header.size();
    }

    @Override
    public int read(byte[] buffer, int offset, int length) throws IOException {
      if (left == 0) {
        whole();
        return -1;
      }
      int n = in.read(buffer, offset, (int) Math.min(length, left));
      if (n < 0) {
        throw new BrokenArchive("the cpio archive is cut off at byte " + at
            + ", in the middle of \"" + EntryName.shown(header.name()) + "\"");
      }
      left -= n;
      at += n;
      if (header.sum() >= 0) {
        for (int i = offset; i < offset + n; i++) {
          sum += buffer[i] & 0xff;
        }
      }
      return n;
    }

    private void whole() throws IOException {
      if (padded) {
        return;
      }
      padded = true;
      take(header.padding());
      if (header.sum() >= 0 && (sum & 0xffffffffL) != header.sum() && header.size() > 0) {
        throw new BrokenArchive("entry \"" + EntryName.shown(header.name())
            + "\" is damaged: the sum of its bytes is not the one that is stored");
      }
    }

    void finish() throws IOException {
      byte[] buffer = new byte[1 << 16];
      while (read(buffer, 0, buffer.length) >= 0) {
        // read over
      }
    }
  }
}
