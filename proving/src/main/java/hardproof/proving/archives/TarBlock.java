package hardproof.proving.archives;

import hardproof.proving.names.EntryName;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * One header block of a tar: 512 bytes as POSIX.1-1988 lays them out ("ustar Interchange Format"), as the
 * seventh edition of Unix did before, and as GNU tar and star add to it (their manuals, "Basic Tar Format",
 * "star.5").
 */
final class TarBlock {
  static final int BYTES = 512;
  private static final int CHECKSUM = 148;
  private static final int CHECKSUM_END = 156;
  private static final int MAGIC = 257;
  private static final int SPARSE_PLACES = 4;
  private static final int PLACE_BYTES = 24;

  private final byte[] block;
  private final long at;

  /**
   * @param at bytes before it, for messages
   */
  TarBlock(byte[] block, long at) {
    this.block = block;
    this.at = at;
  }

  boolean zeros() {
    for (byte b : block) {
      if (b != 0) {
        return false;
      }
    }
    return true;
  }

  /**
   * Whether the sum of its bytes is the one it holds, its own field counted as spaces; some old programs
   * summed signed bytes.
   */
  boolean sumIsRight() {
    long stored;
    try {
      stored = number(CHECKSUM, CHECKSUM_END - CHECKSUM, "checksum");
    } catch (BrokenArchive e) {
      return false;
    }
    return sumsTo(stored);
  }

  private boolean sumsTo(long stored) {
    long unsigned = 0;
    long signed = 0;
    for (int i = 0; i < BYTES; i++) {
      boolean own = i >= CHECKSUM && i < CHECKSUM_END;
      unsigned += own ? ' ' : block[i] & 0xff;
      signed += own ? ' ' : block[i];
    }
    return stored == unsigned || stored == signed;
  }

  char type() {
    return (char) (block[156] & 0xff);
  }

  private boolean magic(String text) {
    byte[] wanted = text.getBytes(StandardCharsets.US_ASCII);
    return Arrays.equals(block, MAGIC, MAGIC + wanted.length, wanted, 0, wanted.length);
  }

  /** GNU tar's own format before POSIX: other fields where ustar has the prefix. */
  private boolean oldGnu() {
    return magic("ustar  ");
  }

  private boolean star() {
    return magic("ustar\0") && block[508] == 't' && block[509] == 'a' && block[510] == 'r';
  }

  /** The name, with the prefix where the format has one. */
  String name() {
    String name = text(0, 100);
    String prefix = magic("ustar\0") ? text(345, star() ? 131 : 155) : "";
    return prefix.isEmpty() ? name : prefix + "/" + name;
  }

  String linkName() {
    return text(157, 100);
  }

  private String text(int from, int length) {
    int end = from;
    while (end < from + length && block[end] != 0) {
      end++;
    }
    return EntryName.of(block, from, end - from);
  }

  long size() throws BrokenArchive {
    return number(124, 12, "size");
  }

  int mode() throws BrokenArchive {
    return (int) number(100, 8, "mode") & 07777;
  }

  /** Seconds since 1970; may be negative. */
  long modified() throws BrokenArchive {
    return number(136, 12, "time");
  }

  String device() throws BrokenArchive {
    return number(329, 8, "device") + "," + number(337, 8, "device");
  }

  /** The file's real size, of a sparse file in GNU's old form or in star's. */
  long realSize() throws BrokenArchive {
    return oldGnu() ? number(483, 12, "real size") : number(452, 12, "real size");
  }

  /** Adds the places that the header itself tells; whether more blocks with places follow. */
  boolean sparsePlaces(SparseMap map) throws BrokenArchive {
    int from = oldGnu() ? 386 : 356;
    boolean more = oldGnu() ? block[482] != 0 : block[355] != 0;
    places(map, from, SPARSE_PLACES);
    return more;
  }

  /** The same, of a block that holds nothing but places. */
  boolean morePlaces(SparseMap map) throws BrokenArchive {
    places(map, 0, 21);
    return block[504] != 0;
  }

  private void places(SparseMap map, int from, int count) throws BrokenArchive {
    for (int i = 0; i < count; i++) {
      int field = from + i * PLACE_BYTES;
      if (block[field] == 0) {
        return;
      }
      map.add(number(field, 12, "sparse map"), number(field + 12, 12, "sparse map"));
    }
  }

  /** Octal digits, or big-endian binary where the first bit is set (GNU tar manual, "Basic Tar"). */
  private long number(int from, int length, String field) throws BrokenArchive {
    if ((block[from] & 0x80) != 0) {
      return binary(from, length, field);
    }
    int i = from;
    int end = from + length;
    while (i < end && block[i] == ' ') {
      i++;
    }
    long value = 0;
    while (i < end && block[i] >= '0' && block[i] <= '7') {
      value = value << 3 | block[i] - '0';
      i++;
    }
    if (i < end && block[i] != 0 && block[i] != ' ') {
      throw unreadable(field);
    }
    return value;
  }

  private long binary(int from, int length, String field) throws BrokenArchive {
    boolean negative = (block[from] & 0x40) != 0;
    long value = negative ? -1 : 0;
    for (int i = from; i < from + length; i++) {
      int b = i == from ? negative ? block[i] | 0x80 : block[i] & 0x7f : block[i] & 0xff;
      if (value << 8 >> 8 != value) {
        throw unreadable(field);
      }
      value = value << 8 | b & 0xff;
    }
    return value;
  }

  private BrokenArchive unreadable(String field) {
    return new BrokenArchive(
        "the tar header at byte " + at + " has a " + field + " that is no number");
  }
}
