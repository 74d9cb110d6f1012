package hardproof.proving.formats;

import java.io.IOException;
import java.io.InputStream;
import java.util.zip.CRC32;
import java.util.zip.CheckedInputStream;

/**
 * The header of a member of a gzip file (RFC 1952, 2.3). The library reads over its checksum, which few
 * writers add; gzip itself refuses a member whose header does not fit it.
 */
final class GzipHeader {
  private static final int HAS_SUM = 2;
  private static final int HAS_EXTRA = 4;
  private static final int HAS_NAME = 8;
  private static final int HAS_COMMENT = 16;
  private static final int FIXED = 10;
  private static final int FLAGS = 3;

  /** A header longer than this is not looked at. */
  static final int LONGEST = 1 << 16;

  private GzipHeader() {}

  /**
   * @param in at the beginning of a member; is set back to there
   * @throws IOException when the header holds a checksum and it is another
   */
  static void check(InputStream in) throws IOException {
    in.mark(LONGEST);
    boolean right = right(in);
    in.reset();
    if (!right) {
      throw new IOException(
          "a header of the gzip file is damaged: its sum is not the one it holds");
    }
  }

  private static boolean right(InputStream in) throws IOException {
    CRC32 crc = new CRC32();
    CheckedInputStream summed = new CheckedInputStream(in, crc);
    byte[] fixed = summed.readNBytes(FIXED);
    if (fixed.length < FIXED || (fixed[FLAGS] & HAS_SUM) == 0) {
      return true;
    }
    int flags = fixed[FLAGS];
    int left = LONGEST - FIXED - 2;
    left = leftBehindExtra(summed, flags, left);
    left = leftBehindTexts(summed, flags, left);
    int expected = (int) crc.getValue() & 0xffff;
    return left <= 0 || (in.read() | in.read() << 8) == expected;
  }

  private static int leftBehindExtra(CheckedInputStream summed, int flags, int left)
      throws IOException {
    if ((flags & HAS_EXTRA) != 0) {
      int length = summed.read() | summed.read() << 8;
      left -= 2 + summed.readNBytes(Math.min(Math.max(length, 0), left - 2)).length;
    }
    return left;
  }

  private static int leftBehindTexts(CheckedInputStream summed, int flags, int left)
      throws IOException {
    for (int field : new int[] {HAS_NAME, HAS_COMMENT}) {
      boolean more = (flags & field) != 0;
      while (more && left > 0) {
        more = summed.read() > 0;
        left--;
      }
    }
    return left;
  }
}
