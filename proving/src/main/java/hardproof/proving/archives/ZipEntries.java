package hardproof.proving.archives;

import hardproof.proving.archives.ArchiveEntry.Kind;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.names.EntryName;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.Charset;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Enumeration;
import java.util.List;
import org.apache.commons.compress.archivers.zip.UnicodePathExtraField;
import org.apache.commons.compress.archivers.zip.X000A_NTFS;
import org.apache.commons.compress.archivers.zip.X5455_ExtendedTimestamp;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.apache.commons.compress.archivers.zip.ZipMethod;

/**
 * Reads a zip as its directory lists it, and holds every entry to its CRC-32 and the directory to the
 * headers before the entries ({@link ZipStructure}), which the library does not.
 */
public final class ZipEntries implements ArchiveEntries {
  /** What DOS and Windows wrote before names were UTF-8 (APPNOTE, appendix D). */
  private static final Charset DOS = Charset.forName("IBM437");

  private static final int PLATFORM_UNIX = 3;
  private static final int PLATFORM_DARWIN = 19;
  private static final int TYPE = 0170000;

  private final ZipFile zip;
  private final List<ZipArchiveEntry> all = new ArrayList<>();
  private final List<String> doubts = new ArrayList<>();
  private boolean slashes;
  private int next;

  private ZipEntries(ZipFile zip) {
    this.zip = zip;
  }

  /**
   * @throws BrokenArchive when the file is no whole zip
   */
  public static ZipEntries open(Path file) throws IOException {
    ZipStructure structure = ZipStructure.of(file);
    ZipEntries entries = opened(file);
    try {
      list(file, structure, entries);
      return entries;
    } catch (IOException | RuntimeException e) {
      entries.close();
      throw e;
    }
  }

  private static ZipEntries opened(Path file) throws IOException {
    ZipEntries entries;
    try {
      entries = new ZipEntries(ZipFile.builder().setPath(file).get());
    } catch (IllegalArgumentException e) {
      throw new BrokenArchive("the zip's directory can't be read", e);
    }
    return entries;
  }

  private static void list(Path file, ZipStructure structure, ZipEntries entries)
      throws IOException {
    Enumeration<ZipArchiveEntry> listed = entries.zip.getEntriesInPhysicalOrder();
    while (listed.hasMoreElements()) {
      entries.all.add(listed.nextElement());
    }
    entries.slashes = entries.all.stream().anyMatch(ZipEntries::hasSlash);
    entries.doubts.addAll(structure.compare(file, entries.all));
  }

  @Override
  public ArchiveEntry next() throws IOException {
    if (next == all.size()) {
      return null;
    }
    ZipArchiveEntry entry = all.get(next++);
    String name = name(entry);
    Instant modified =
        entry.getLastModifiedTime() == null ? null : entry.getLastModifiedTime().toInstant();
    return converted(entry, name, modified);
  }

  private ArchiveEntry converted(ZipArchiveEntry entry, String name, Instant modified)
      throws IOException {
    boolean unix = unix(entry) && entry.getUnixMode() != 0;
    Integer mode = unix ? entry.getUnixMode() & 07777 : null;
    if (name.endsWith("/")) {
      return ArchiveEntry.folder(name, mode, modified);
    }
    if (entry.getGeneralPurposeBit().usesEncryption()) {
      throw new NotReadHere(
          "entry \"" + EntryName.shown(name) + "\" is encrypted, and no key for it is known here");
    }
    return switch (unix ? entry.getUnixMode() & TYPE : 0) {
      case 0040000 -> ArchiveEntry.folder(name, mode, modified);
      case 0120000 -> ArchiveEntry.link(name, target(name, entry), modified);
      case 0010000 -> new ArchiveEntry(name, Kind.PIPE, null, null, mode, modified, null);
      default -> ArchiveEntry.file(name, entry.getSize(), mode, modified);
    };
  }

  /** DOS's time is that of a clock somewhere, in steps of two seconds (APPNOTE 4.4.6); extra fields tell better. */
  @Override
  public boolean roughTimes() {
    return all.stream()
        .anyMatch(e -> e.getExtraField(X5455_ExtendedTimestamp.HEADER_ID) == null
            && e.getExtraField(X000A_NTFS.HEADER_ID) == null);
  }

  private static boolean unix(ZipArchiveEntry entry) {
    return entry.getPlatform() == PLATFORM_UNIX || entry.getPlatform() == PLATFORM_DARWIN;
  }

  /**
   * By the flag for UTF-8, then Info-ZIP's extra field, where its checksum is that of the name; what was
   * written on Unix keeps its bytes, everything else is in DOS's code page.
   */
  static String told(ZipArchiveEntry entry) {
    byte[] raw = entry.getRawName();
    if (entry.getGeneralPurposeBit().usesUTF8ForNames()) {
      return EntryName.of(raw);
    }
    if (entry.getExtraField(UnicodePathExtraField.UPATH_ID) instanceof UnicodePathExtraField field
        && field.getNameCRC32() == crc(raw)) {
      return EntryName.of(field.getUnicodeName());
    }
    if (unix(entry)) {
      return EntryName.of(raw);
    }
    return new String(raw, DOS);
  }

  /** A backslash parts a name only where a program of DOS or Windows wrote the whole archive so. */
  private String name(ZipArchiveEntry entry) {
    String name = told(entry);
    return slashes || unix(entry) ? name : name.replace('\\', '/');
  }

  /** A slash at its end alone may be put there by programs that part names by backslashes. */
  private static boolean hasSlash(ZipArchiveEntry entry) {
    byte[] raw = entry.getRawName();
    for (int i = 0; i < raw.length - 1; i++) {
      if (raw[i] == '/') {
        return true;
      }
    }
    return false;
  }

  private static long crc(byte[] bytes) {
    java.util.zip.CRC32 crc = new java.util.zip.CRC32();
    crc.update(bytes);
    return crc.getValue();
  }

  private String target(String name, ZipArchiveEntry entry) throws IOException {
    if (entry.getSize() > PaxRecords.LONGEST_NAME) {
      throw new HostileArchive(
          name, "is a link of " + entry.getSize() + " bytes: no file system takes that");
    }
    try (InputStream in = open(name, entry)) {
      return EntryName.of(in.readAllBytes());
    }
  }

  private InputStream open(String name, ZipArchiveEntry entry) throws IOException {
    if (!zip.canReadEntryData(entry)) {
      ZipMethod method = ZipMethod.getMethodByCode(entry.getMethod());
      throw new NotReadHere("entry \"" + EntryName.shown(name) + "\" is compressed by method "
          + entry.getMethod() + (method == null ? "" : " (" + method + ")")
          + ", which is not read here");
    }
    InputStream content = zip.getInputStream(entry);
    return entry.getCrc() < 0
        ? content
        : new SummedContent(content, name, entry.getSize(), entry.getCrc());
  }

  @Override
  public InputStream content() throws IOException {
    ZipArchiveEntry entry = all.get(next - 1);
    return open(name(entry), entry);
  }

  @Override
  public List<String> doubts() {
    return List.copyOf(doubts);
  }

  @Override
  public void close() throws IOException {
    zip.close();
  }
}
