package hardproof.proving.archives;

import hardproof.proving.formats.NotReadHere;
import hardproof.proving.names.EntryName;
import hardproof.proving.streams.Pieces;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import org.apache.commons.compress.MemoryLimitException;
import org.apache.commons.compress.PasswordRequiredException;
import org.apache.commons.compress.archivers.sevenz.SevenZArchiveEntry;
import org.apache.commons.compress.archivers.sevenz.SevenZFile;

/** Reads a 7z archive; the library holds its headers and every entry to their CRC-32. */
public final class SevenZipEntries implements ArchiveEntries {
  private static final int MOST_KILOBYTES = 512 << 10;

  /** Set where the upper half of the attributes is a Unix mode, as 7-Zip on Unix does. */
  private static final int UNIX = 0x8000;

  private static final int TYPE = 0170000;
  private static final int LINK = 0120000;

  private final SevenZFile file;
  private SevenZArchiveEntry entry;

  private SevenZipEntries(SevenZFile file) {
    this.file = file;
  }

  /**
   * @throws BrokenArchive when the file is no whole 7z archive
   */
  public static SevenZipEntries open(Path file) throws IOException {
    try {
      return new SevenZipEntries(SevenZFile.builder()
          .setPath(file)
          .setMaxMemoryLimitKiB(MOST_KILOBYTES)
          .get());
    } catch (IOException | RuntimeException e) {
      throw told(e);
    }
  }

  @Override
  public ArchiveEntry next() throws IOException {
    advance();
    if (entry == null) {
      return null;
    }
    String name = entry.getName();
    if (name == null) {
      throw new BrokenArchive("it holds an entry without a name");
    }
    refuseAntiItem(name);
    return converted(name);
  }

  private void advance() throws IOException {
    try {
      entry = file.getNextEntry();
    } catch (IOException | RuntimeException e) {
      throw told(e);
    }
  }

  private void refuseAntiItem(String name) throws NotReadHere {
    if (entry.isAntiItem()) {
      throw new NotReadHere("entry \"" + EntryName.shown(name)
          + "\" takes away what an archive before it held, which is not read here");
    }
  }

  private ArchiveEntry converted(String name) throws IOException {
    Instant modified =
        entry.getHasLastModifiedDate() ? entry.getLastModifiedTime().toInstant() : null;
    int attributes = entry.getHasWindowsAttributes() ? entry.getWindowsAttributes() : 0;
    int unix = (attributes & UNIX) != 0 ? attributes >>> 16 : 0;
    Integer mode = unix == 0 ? null : unix & 07777;
    if (entry.isDirectory()) {
      return ArchiveEntry.folder(name, mode, modified);
    }
    return (unix & TYPE) == LINK
        ? ArchiveEntry.link(name, target(name), modified)
        : ArchiveEntry.file(name, entry.getSize(), mode, modified);
  }

  private String target(String name) throws IOException {
    if (entry.getSize() > PaxRecords.LONGEST_NAME) {
      throw new HostileArchive(
          name, "is a link of " + entry.getSize() + " bytes: no file system takes that");
    }
    return EntryName.of(content().readAllBytes());
  }

  @Override
  public InputStream content() {
    return new Pieces() {
      @Override
      public int read(byte[] buffer, int offset, int length) throws IOException {
        try {
          return entry.hasStream() ? file.read(buffer, offset, length) : -1;
        } catch (IOException | RuntimeException e) {
          throw told(e);
        }
      }
    };
  }

  private static IOException told(Exception e) {
    if (e instanceof PasswordRequiredException) {
      return new NotReadHere("it is encrypted, and no key for it is known here", e);
    }
    if (e instanceof MemoryLimitException) {
      return new NotReadHere(
          "it takes more than " + (MOST_KILOBYTES >> 10) + " MiB of memory to unpack", e);
    }
    String said = String.valueOf(e.getMessage());
    if (said.startsWith("Unsupported compression method")) {
      return new NotReadHere("it is compressed by a method that is not read here: " + said, e);
    }
    return e instanceof IOException io ? io : new BrokenArchive("it is no whole 7z archive", e);
  }

  @Override
  public List<String> doubts() {
    return List.of();
  }

  @Override
  public void close() throws IOException {
    file.close();
  }
}
