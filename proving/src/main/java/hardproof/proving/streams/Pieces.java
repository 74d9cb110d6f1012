package hardproof.proving.streams;

import java.io.IOException;
import java.io.InputStream;

/** A stream that is read in pieces; who wants a single byte gets a piece of one. */
public abstract class Pieces extends InputStream {
  @Override
  public final int read() throws IOException {
    byte[] one = new byte[1];
    return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
  }

  @Override
  public abstract int read(byte[] buffer, int offset, int length) throws IOException;
}
