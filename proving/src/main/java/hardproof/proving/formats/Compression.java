package hardproof.proving.formats;

import java.io.IOException;
import java.io.InputStream;
import org.apache.commons.compress.compressors.bzip2.BZip2CompressorInputStream;
import org.apache.commons.compress.compressors.lz4.FramedLZ4CompressorInputStream;
import org.apache.commons.compress.compressors.zstandard.ZstdCompressorInputStream;
import org.tukaani.xz.XZInputStream;

/** How an artifact is compressed as a whole. */
public enum Compression {
  NONE(""),
  GZIP(".gz"),
  ZSTD(".zst"),
  XZ(".xz"),
  BZIP2(".bz2"),
  LZ4(".lz4");

  /** What xz -9 takes is 65 MiB; four times that. */
  private static final int XZ_MOST_KILOBYTES = 256 << 10;

  private final String suffix;

  Compression(String suffix) {
    this.suffix = suffix;
  }

  String suffix() {
    return suffix;
  }

  /** How something is compressed that begins so; {@link #NONE} where it begins like nothing compressed. */
  static Compression of(byte[] head) {
    Magic found = Magic.of(head);
    if (found == null) {
      return NONE;
    }
    return switch (found) {
      case GZIP -> GZIP;
      case ZSTD -> ZSTD;
      case XZ -> XZ;
      case BZIP2 -> BZIP2;
      case LZ4 -> LZ4;
      default -> NONE;
    };
  }

  /**
   * The content of {@code in}. Members of a gzip file, frames of zstd and lz4, and streams of xz and bzip2
   * may follow one another.
   *
   * @throws IOException when it does not begin as it must
   */
  public InputStream content(InputStream in) throws IOException {
    return switch (this) {
      case NONE -> in;
      case GZIP -> new GzipMembers(in);
      case ZSTD -> Decompressed.of(this, () -> new ZstdCompressorInputStream(in));
      case XZ -> Decompressed.of(this, () -> new XZInputStream(in, XZ_MOST_KILOBYTES));
      case BZIP2 -> Decompressed.of(this, () -> new BZip2CompressorInputStream(in, true));
      case LZ4 -> Decompressed.of(this, () -> new FramedLZ4CompressorInputStream(in, true));
    };
  }
}
