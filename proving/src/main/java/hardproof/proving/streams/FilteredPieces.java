package hardproof.proving.streams;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** The same, over another stream; what was read can't be gone back to, since it was counted or summed. */
public abstract class FilteredPieces extends FilterInputStream {
  protected FilteredPieces(InputStream in) {
    super(in);
  }

  @Override
  public final int read() throws IOException {
    byte[] one = new byte[1];
    return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
  }

  @Override
  public abstract int read(byte[] buffer, int offset, int length) throws IOException;

  @Override
  public final boolean markSupported() {
    return false;
  }
}
