package hardproof.proving.formats;

import hardproof.proving.streams.FilteredPieces;
import java.io.IOException;
import java.io.InputStream;
import org.tukaani.xz.MemoryLimitException;

/** Tells what takes more memory than we give from what is damaged. */
final class Decompressed extends FilteredPieces {
  private final String words;

  /** Opens a stream of a library. */
  interface Opening {
    InputStream open() throws IOException;
  }

  private Decompressed(InputStream in, String words) {
    super(in);
    this.words = words;
  }

  static InputStream of(Compression compression, Opening opening) throws IOException {
    String words = compression.suffix().substring(1);
    try {
      return new Decompressed(opening.open(), words);
    } catch (IOException | RuntimeException e) {
      throw told(e, words);
    }
  }

  @Override
  public int read(byte[] buffer, int offset, int length) throws IOException {
    try {
      return in.read(buffer, offset, length);
    } catch (IOException | RuntimeException e) {
      throw told(e, words);
    }
  }

  private static IOException told(Exception e, String words) {
    if (e instanceof MemoryLimitException
        || String.valueOf(e.getMessage()).contains("too much memory")) {
      return new NotReadHere(
          "the " + words + " stream takes more memory to unpack than a run has", e);
    }
    // Libraries throw whatever they stumble over where bytes are damaged.
    return e instanceof IOException io
        ? io
        : new IOException("the " + words + " stream is damaged", e);
  }
}
