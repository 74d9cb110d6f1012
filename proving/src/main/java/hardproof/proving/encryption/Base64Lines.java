package hardproof.proving.encryption;

import hardproof.proving.streams.FilteredPieces;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.Base64;

/** Bytes that were written as lines of base64 (RFC 4648; RFC 7468 for the lines around them). */
final class Base64Lines extends FilteredPieces {
  private static final int DASH = '-';

  private boolean ended;

  private Base64Lines(InputStream in) {
    super(in);
  }

  /** What stands between a first line and a last one, which both begin with dashes. */
  static InputStream between(InputStream in) throws IOException {
    InputStream lines = new BufferedInputStream(in);
    int c;
    do {
      c = lines.read();
    } while (c >= 0 && c != '\n');
    return all(new Base64Lines(lines));
  }

  /** Everything. */
  static InputStream all(InputStream in) {
    return Base64.getMimeDecoder().wrap(in);
  }

  /** No character of base64 is a dash: there is the last line. */
  @Override
  public int read(byte[] buffer, int offset, int length) throws IOException {
    if (ended) {
      return -1;
    }
    int n = in.read(buffer, offset, length);
    for (int i = 0; i < n; i++) {
      if (buffer[offset + i] == DASH) {
        ended = true;
        return i == 0 ? -1 : i;
      }
    }
    return n;
  }
}
