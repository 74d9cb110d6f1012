package hardproof.proving.archives;

import hardproof.core.wording.Wording;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.names.EntryName;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;

/**
 * What a zip says of itself in more than one place (APPNOTE 4.3): how many entries its end record counts,
 * and the header before each entry beside its line in the directory. The library believes the directory
 * alone, so entries that fell out of it would be lost in silence.
 *
 * @param entries as the end record counts them
 * @param directory where the directory ends, at the latest
 */
record ZipStructure(long entries, boolean wide, long directory) {
  private static final int END = 0x06054b50;
  private static final int END_BYTES = 22;
  private static final int LONGEST_COMMENT = 0xffff;
  private static final int WIDE_LOCATOR = 0x07064b50;
  private static final int WIDE_LOCATOR_BYTES = 20;
  private static final int WIDE_END = 0x06064b50;
  private static final int LOCAL = 0x04034b50;
  private static final int LOCAL_BYTES = 30;
  private static final int DESCRIPTOR_FOLLOWS = 1 << 3;
  private static final int SEARCHED = 1 << 16;

  static ZipStructure of(Path file) throws IOException {
    try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
      long size = channel.size();
      int tail = (int) Math.min(size, END_BYTES + LONGEST_COMMENT);
      ByteBuffer end = read(channel, size - tail, tail);
      int at = endRecord(tail, end);
      long place = size - tail + at;
      int disk = end.getShort(at + 4) & 0xffff;
      if (disk != 0 && disk != 0xffff) {
        throw new NotReadHere(
            "it is the last of a zip in several parts: all of them in one file is what is read here");
      }
      return directory(channel, end, at, place);
    }
  }

  private static int endRecord(int tail, ByteBuffer end) throws BrokenArchive {
    int at = tail - END_BYTES;
    while (at >= 0 && end.getInt(at) != END) {
      at--;
    }
    if (at < 0) {
      throw new BrokenArchive("it has no end record of a zip: it is cut off, or no zip at all");
    }
    return at;
  }

  private static ZipStructure directory(FileChannel channel, ByteBuffer end, int at, long place)
      throws IOException {
    long entries = end.getShort(at + 10) & 0xffff;
    if (place >= WIDE_LOCATOR_BYTES) {
      ByteBuffer locator = read(channel, place - WIDE_LOCATOR_BYTES, WIDE_LOCATOR_BYTES);
      if (locator.getInt(0) == WIDE_LOCATOR) {
        ByteBuffer wide = read(channel, locator.getLong(8), 56);
        if (wide.getInt(0) == WIDE_END) {
          return new ZipStructure(wide.getLong(32), true, place);
        }
      }
    }
    return new ZipStructure(entries, false, place);
  }

  /** Little-endian; what lies outside of the file is zeros. */
  private static ByteBuffer read(FileChannel channel, long from, int length) throws IOException {
    ByteBuffer bytes = ByteBuffer.allocate(length).order(ByteOrder.LITTLE_ENDIAN);
    while (from >= 0 && bytes.hasRemaining()) {
      if (channel.read(bytes, from + bytes.position()) < 0) {
        break;
      }
    }
    return bytes.clear();
  }

  /**
   * Holds the directory's lines to the end record and to the headers before the entries.
   *
   * @param listed in the order in which they lie in the file
   * @return what differs and a reader may pass over
   * @throws BrokenArchive when entries are not where the directory says, or not as many
   */
  List<String> compare(Path file, List<ZipArchiveEntry> listed) throws IOException {
    // Old programs count on beyond 65,535 from zero.
    boolean asMany = wide ? entries == listed.size() : entries == (listed.size() & 0xffff);
    if (!asMany) {
      throw new BrokenArchive("its end record counts " + entries + " entries, its directory lists "
          + listed.size() + ": entries are lost");
    }
    List<String> doubts = new ArrayList<>();
    Set<String> names = new HashSet<>();
    listed.forEach(e -> names.add(ZipEntries.told(e)));
    compareHeaders(file, listed, doubts, names);
    return doubts;
  }

  private void compareHeaders(
      Path file, List<ZipArchiveEntry> listed, List<String> doubts, Set<String> names)
      throws IOException {
    try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
      long before = 0;
      for (ZipArchiveEntry entry : listed) {
        unlisted(channel, before, entry.getLocalHeaderOffset(), names, doubts);
        before = header(channel, entry, doubts);
      }
      unlisted(channel, before, directory, names, doubts);
    }
  }

  /** Where the content of an entry ends. */
  private static long header(FileChannel channel, ZipArchiveEntry entry, List<String> doubts)
      throws IOException {
    long at = entry.getLocalHeaderOffset();
    ByteBuffer header = read(channel, at, LOCAL_BYTES);
    String shown = "\"" + EntryName.shown(ZipEntries.told(entry)) + "\"";
    if (header.getInt(0) != LOCAL) {
      throw new BrokenArchive("entry " + shown + " does not begin where the directory says");
    }
    int nameLength = header.getShort(26) & 0xffff;
    int extraLength = header.getShort(28) & 0xffff;
    byte[] name = read(channel, at + LOCAL_BYTES, nameLength).array();
    compareHeader(entry, doubts, header, shown, name);
    return at + LOCAL_BYTES + nameLength + extraLength + entry.getCompressedSize();
  }

  private static void compareHeader(
      ZipArchiveEntry entry, List<String> doubts, ByteBuffer header, String shown, byte[] name) {
    boolean told = (header.getShort(6) & DESCRIPTOR_FOLLOWS) == 0;
    if (!Arrays.equals(name, entry.getRawName())) {
      doubts.add(
          "has another name for entry " + shown + " before its content than in its directory");
    } else if ((header.getShort(8) & 0xffff) != entry.getMethod()
        || told && (header.getInt(14) & 0xffffffffL) != entry.getCrc()) {
      doubts.add(
          "says other things of entry " + shown + " before its content than in its directory");
    }
  }

  /**
   * Looks between two entries for one that the directory does not list. Before the first, there may be a
   * program that unpacks the rest.
   */
  private static void unlisted(
      FileChannel channel, long from, long to, Set<String> names, List<String> doubts)
      throws IOException {
    if (from == 0) {
      if (to > 0 && read(channel, 0, 4).getInt(0) == LOCAL) {
        lost(channel, 0, names, doubts);
      }
      return;
    }
    search(channel, from, to, names, doubts);
  }

  private static void search(
      FileChannel channel, long from, long to, Set<String> names, List<String> doubts)
      throws IOException {
    for (long at = from; at < to; at += SEARCHED) {
      int length = (int) Math.min(SEARCHED + 3, to - at);
      ByteBuffer gap = read(channel, at, length);
      for (int i = 0; i + 4 <= length; i++) {
        if (gap.get(i) == 'P' && gap.getInt(i) == LOCAL) {
          lost(channel, at + i, names, doubts);
        }
      }
    }
  }

  private static void lost(FileChannel channel, long at, Set<String> names, List<String> doubts)
      throws IOException {
    int length = read(channel, at, LOCAL_BYTES).getShort(26) & 0xffff;
    String name = EntryName.of(read(channel, at + LOCAL_BYTES, length).array());
    // An older state of an entry that is listed is left behind by programs that only append.
    if (!names.contains(name) && doubts.size() < 3) {
      doubts.add("holds an entry \"" + EntryName.shown(name) + "\" at byte " + at
          + " that its directory does not list: it is lost to whoever unpacks it");
    }
  }

  /** {@code 3 entries}. */
  @Override
  public String toString() {
    return Wording.count(entries, "entry", "entries");
  }
}
