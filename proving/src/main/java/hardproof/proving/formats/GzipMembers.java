package hardproof.proving.formats;

import hardproof.proving.streams.Pieces;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import org.apache.commons.compress.compressors.gzip.GzipCompressorInputStream;

/**
 * The content of all members of a gzip file, one after another (RFC 1952, 2.2). Zeros behind the last are
 * padding, as tapes and block devices leave it, and read over as gzip does; anything else is damage: the
 * library would take a damaged second member for the end, or padding for damage.
 */
final class GzipMembers extends Pieces {
  private final BufferedInputStream in;
  private InputStream member;

  GzipMembers(InputStream in) throws IOException {
    this.in = new BufferedInputStream(in, 1 << 16);
    this.member = open();
  }

  private InputStream open() throws IOException {
    GzipHeader.check(in);
    // Reads no further than the member goes, since the stream can be set back.
    return GzipCompressorInputStream.builder().setInputStream(in).get();
  }

  @Override
  public int read(byte[] buffer, int offset, int length) throws IOException {
    while (member != null) {
      int n = member.read(buffer, offset, length);
      if (n > 0 || length == 0) {
        return n;
      }
      member = another() ? open() : null;
    }
    return -1;
  }

  private boolean another() throws IOException {
    in.mark(2);
    int first = in.read();
    int second = in.read();
    if (first == 0x1f && second == 0x8b) {
      in.reset();
      return true;
    }
    if (first > 0 || second > 0) {
      throw new IOException("behind a member of the gzip file stand bytes that begin no other");
    }
    requireZeros();
    return false;
  }

  private void requireZeros() throws IOException {
    byte[] rest = new byte[1 << 16];
    int n;
    while ((n = in.read(rest)) >= 0) {
      for (int i = 0; i < n; i++) {
        if (rest[i] != 0) {
          throw new IOException("behind the gzip file stand zeros and then other bytes");
        }
      }
    }
  }
}
