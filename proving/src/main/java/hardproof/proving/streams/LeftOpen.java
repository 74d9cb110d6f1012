package hardproof.proving.streams;

import java.io.FilterInputStream;
import java.io.InputStream;

/**
 * The same, and whoever closes it leaves the other open: its end is still to be read. Some decompressors close
 * what they read from when they are collected as garbage, which may be at any time after their last use.
 */
public final class LeftOpen extends FilterInputStream {
  public LeftOpen(InputStream in) {
    super(in);
  }

  @Override
  public void close() {
    // whoever opened the other one closes it
  }
}
