package hardproof.proving.formats;

import java.io.IOException;
import java.io.InputStream;
import org.apache.commons.compress.compressors.gzip.GzipCompressorInputStream;
import org.apache.commons.compress.compressors.zstandard.ZstdCompressorInputStream;

/** How an artifact is compressed as a whole. */
public enum Compression {
  NONE(""),
  GZIP(".gz"),
  ZSTD(".zst");

  private final String suffix;

  Compression(String suffix) {
    this.suffix = suffix;
  }

  String suffix() {
    return suffix;
  }

  /**
   * The content of {@code in}. Members of a gzip file and frames of a zstd file may follow one
   * another.
   *
   * @throws IOException when it does not begin as it must
   */
  public InputStream content(InputStream in) throws IOException {
    return switch (this) {
      case NONE -> in;
      case GZIP ->
        GzipCompressorInputStream.builder()
            .setInputStream(in)
            .setDecompressConcatenated(true)
            .get();
      case ZSTD -> new ZstdCompressorInputStream(in);
    };
  }
}
