package hardproof.proving.archives;

import hardproof.proving.formats.Packing;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;

/** The one place that knows which class reads which packing. */
public final class Archives {
  private Archives() {}

  /**
   * @param in the archive, decompressed; not closed
   * @param packing one that is read from its beginning to its end
   */
  public static ArchiveEntries read(InputStream in, Packing packing) {
    return switch (packing) {
      case TAR -> new TarEntries(in);
      case CPIO -> new CpioEntries(in);
      default -> throw new IllegalArgumentException(packing + " is no stream");
    };
  }

  /**
   * @param file the archive
   * @param packing one that tells at its end what it holds
   * @throws BrokenArchive when the file is no whole archive
   */
  public static ArchiveEntries open(Path file, Packing packing) throws IOException {
    return switch (packing) {
      case ZIP -> ZipEntries.open(file);
      case SEVEN_ZIP -> SevenZipEntries.open(file);
      default -> throw new IllegalArgumentException(packing + " is a stream");
    };
  }
}
