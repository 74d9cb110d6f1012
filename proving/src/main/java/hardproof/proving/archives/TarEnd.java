package hardproof.proving.archives;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/**
 * Watches whether a tar stream ends with two blocks of zeros (POSIX ustar, "end of archive"). The
 * library takes a stream that stops between entries for a whole archive; we must not.
 */
final class TarEnd extends FilterInputStream {
  private static final int CLOSING_BYTES = 1024;

  /** How many bytes in a row, up to now, were zero. */
  private long zeros;

  private long total;
  private long lastEntryEnd;

  TarEnd(InputStream in) {
    super(in);
  }

  @Override
  public int read() throws IOException {
    byte[] one = new byte[1];
    return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
  }

  @Override
  public int read(byte[] buffer, int offset, int length) throws IOException {
    int n = in.read(buffer, offset, length);
    if (n > 0) {
      total += n;
      int trailing = 0;
      while (trailing < n && buffer[offset + n - 1 - trailing] == 0) {
        trailing++;
      }
      zeros = trailing == n ? zeros + n : trailing;
    }
    return n;
  }

  @Override
  public long skip(long n) throws IOException {
    byte[] buffer = new byte[(int) Math.min(8192, Math.max(1, n))];
    long skipped = 0;
    while (skipped < n) {
      int got = read(buffer, 0, (int) Math.min(buffer.length, n - skipped));
      if (got < 0) {
        break;
      }
      skipped += got;
    }
    return skipped;
  }

  @Override
  public boolean markSupported() {
    return false;
  }

  /** The content of the newest entry ended here; it is padded to whole blocks. */
  void entryEndsAt(long offset) {
    lastEntryEnd = (offset + 511) / 512 * 512;
  }

  void drain() throws IOException {
    byte[] buffer = new byte[8192];
    while (read(buffer, 0, buffer.length) >= 0) {
      // the end blocks must have been read for seen() to tell
    }
  }

  /** Zeros that belong to the content of the last entry do not count. */
  boolean seen() {
    return Math.min(zeros, total - lastEntryEnd) >= CLOSING_BYTES && total % 512 == 0;
  }
}
