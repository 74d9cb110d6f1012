package hardproof.proving.drills;

import hardproof.core.wording.Wording;
import hardproof.proving.checksums.BackgroundDigest;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.encryption.Keys;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.Compression;
import hardproof.proving.formats.Magic;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import hardproof.proving.streams.FilteredPieces;
import hardproof.proving.streams.LeftOpen;
import java.io.IOException;
import java.io.InputStream;
import java.io.PushbackInputStream;

/** An artifact that is one file, being read: counts, hashes and reports every byte as it passes. */
final class ArtifactReading extends FilteredPieces {
  private final BackgroundDigest digest = new BackgroundDigest();
  private final Steps steps;
  private long count;

  private ArtifactReading(InputStream in, Steps steps) {
    super(in);
    this.steps = steps;
  }

  static ArtifactReading open(DrillRequest request, Artifact artifact, Steps steps)
      throws ArtifactUnreadable {
    return new ArtifactReading(request.store().open(artifact.place()), steps);
  }

  @Override
  public int read(byte[] buffer, int offset, int length) throws IOException {
    int n = in.read(buffer, offset, length);
    if (n > 0) {
      digest.update(buffer, offset, n);
      count += n;
      steps.read(n);
    }
    return n;
  }

  long count() {
    return count;
  }

  /** Reads what is left, then gives the SHA-256 of all. */
  String finish() throws IOException {
    byte[] buffer = new byte[Sha256.BUFFER_BYTES];
    while (read(buffer, 0, buffer.length) >= 0) {
      // only to hash
    }
    return digest.finish();
  }

  @Override
  public void close() throws IOException {
    digest.close();
    super.close();
  }

  /**
   * The content, decrypted where it is encrypted and decompressed where the format says so.
   *
   * @throws hardproof.proving.formats.NotReadHere when its first bytes are another format's, or encrypted
   * @throws IOException when they can't be of the format
   */
  InputStream content(ArtifactFormat format, Keys keys) throws IOException {
    byte[] head = readNBytes(Magic.BYTES);
    InputStream whole = beginningWith(head, new LeftOpen(this));
    Magic sealed = Magic.encrypted(head, format);
    if (sealed != null) {
      InputStream plain = keys.open(sealed, whole, format);
      head = plain.readNBytes(Magic.BYTES);
      whole = beginningWith(head, plain);
    }
    Magic.accept(head, format);
    return format.compression().content(whole);
  }

  private static InputStream beginningWith(byte[] head, InputStream rest) throws IOException {
    PushbackInputStream whole = new PushbackInputStream(rest, Magic.BYTES);
    whole.unread(head);
    return whole;
  }

  /** What a library says of bytes that are wrong, to stand inside a sentence of ours. */
  static String reason(IOException e) {
    return String.valueOf(e.getMessage()).replaceFirst("\\.+$", "");
  }

  /** Compares with the checksum on record; says so plainly where they differ. */
  static String difference(Artifact artifact, String found, long bytes) {
    if (artifact.sha256() == null || artifact.sha256().equals(found)) {
      return null;
    }
    return artifact.place() + " was read whole (" + Wording.bytes(bytes) + ") and its SHA-256 is "
        + found.substring(0, 12) + "…, not " + artifact.sha256().substring(0, 12)
        + "… as recorded: the copy is damaged";
  }

  /** Sizes are compared first: it costs nothing. */
  static void checkSize(DrillRequest request, Artifact artifact)
      throws DrillFailure, ArtifactUnreadable {
    long size = request.store().size(artifact.place());
    if (artifact.sizeBytes() != null && artifact.sizeBytes() != size) {
      throw DrillFailure.copyWrong(
          request,
          artifact,
          artifact.place() + " is " + size + " bytes long, " + artifact.sizeBytes() + " expected");
    }
  }

  /**
   * Bytes that a gzip file says it unpacks to (RFC 1952 ISIZE: modulo 2^32, of its last member); an
   * estimate for zstd; its own size for the others.
   */
  static long unpackedSize(DrillRequest request, Artifact artifact)
      throws ArtifactUnreadable, IOException {
    long size = request.store().size(artifact.place());
    Compression compression =
        artifact.known().map(ArtifactFormat::compression).orElse(Compression.NONE);
    if (compression == Compression.ZSTD) {
      // The frame may tell, and often does not; three times is usual for files and databases.
      return 3 * size;
    }
    if (compression != Compression.GZIP || size < 18) {
      return size;
    }
    return sizeByTrailer(request, artifact, size);
  }

  private static long sizeByTrailer(DrillRequest request, Artifact artifact, long size)
      throws IOException {
    try (InputStream in = request.store().open(artifact.place())) {
      in.skipNBytes(size - 4);
      byte[] tail = in.readNBytes(4);
      long isize = 0;
      for (int i = 3; i >= 0; i--) {
        isize = isize << 8 | tail[i] & 0xff;
      }
      return Math.max(size, isize);
    }
  }
}
