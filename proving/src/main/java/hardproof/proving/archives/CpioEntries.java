package hardproof.proving.archives;

import hardproof.proving.archives.ArchiveEntry.Kind;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.names.EntryName;
import hardproof.proving.streams.Pieces;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Reads a cpio archive: POSIX.1's octets ({@code 070707}), the newer ASCII form with and without a sum
 * ({@code 070701}, {@code 070702}), and the old binary one, as cpio(5) of the BSDs lays them out.
 */
public final class CpioEntries implements ArchiveEntries {
  private static final String TRAILER = "TRAILER!!!";
  private static final int TYPE = 0170000;
  private static final int MOST_HELD = 1_000_000;

  private final InputStream in;
  private final List<String> doubts = new ArrayList<>();
  private final Deque<ArchiveEntry> ready = new ArrayDeque<>();

  /** By device and inode: names of a file whose content comes with its last name. */
  private final Map<String, List<Header>> waiting = new LinkedHashMap<>();

  /** By device and inode: under which name a file's content came. */
  private final Map<String, String> placed = new HashMap<>();

  private Content content;
  private int held;
  private long at;
  private boolean ended;

  /**
   * @param in the archive itself, already decompressed; not closed
   */
  public CpioEntries(InputStream in) {
    this.in = new BufferedInputStream(in, 1 << 16);
  }

  /** What stands before an entry. */
  private record Header(
      String name,
      long size,
      int mode,
      long links,
      String file,
      Instant modified,
      String device,
      int padding,
      long sum) {
    ArchiveEntry emptyFile() {
      return ArchiveEntry.file(name, 0L, mode & 07777, modified);
    }
  }

  @Override
  public ArchiveEntry next() throws IOException {
    if (content != null) {
      content.finish();
      content = null;
    }
    while (ready.isEmpty() && !ended) {
      Header header = header();
      if (header.name.equals(TRAILER)) {
        end();
      } else {
        place(header);
      }
    }
    return ready.poll();
  }

  private void place(Header header) throws IOException {
    content = new Content(header);
    int type = header.mode & TYPE;
    int mode = header.mode & 07777;
    switch (type) {
      case 0040000 -> ready.add(ArchiveEntry.folder(header.name, mode, header.modified));
      case 0120000 -> {
        if (header.size > PaxRecords.LONGEST_NAME) {
          throw new HostileArchive(
              header.name, "is a link of " + header.size + " bytes: no file system takes that");
        }
        String target = EntryName.of(content.readAllBytes());
        ready.add(ArchiveEntry.link(header.name, target, header.modified));
      }
      case 0010000 -> ready.add(special(header, Kind.PIPE, null));
      case 0020000 -> ready.add(special(header, Kind.CHARACTER_DEVICE, header.device));
      case 0060000 -> ready.add(special(header, Kind.BLOCK_DEVICE, header.device));
      default -> file(header, mode);
    }
    if (ready.isEmpty()) {
      content.finish();
      content = null;
    }
  }

  private static ArchiveEntry special(Header header, Kind kind, String numbers) {
    return new ArchiveEntry(
        header.name, kind, numbers, null, header.mode & 07777, header.modified, null);
  }

  private static ArchiveEntry hardLink(Header header, String to) {
    return new ArchiveEntry(header.name, Kind.HARD_LINK, to, null, null, header.modified, null);
  }

  private void file(Header header, int mode) throws NotReadHere {
    boolean linked = header.links > 1;
    if (linked && header.size == 0) {
      String to = placed.get(header.file);
      if (to != null) {
        ready.add(hardLink(header, to));
      } else {
        waiting.computeIfAbsent(header.file, f -> new ArrayList<>()).add(header);
        if (++held > MOST_HELD) {
          throw new NotReadHere(
              "more than " + MOST_HELD + " names wait for the content of the file that they share");
        }
      }
      return;
    }
    ready.add(ArchiveEntry.file(header.name, header.size, mode, header.modified));
    if (linked) {
      placed.put(header.file, header.name);
      List<Header> others = waiting.remove(header.file);
      if (others != null) {
        others.forEach(o -> ready.add(hardLink(o, header.name)));
      }
    }
  }

  private void end() throws IOException {
    ended = true;
    for (List<Header> names : waiting.values()) {
      ready.add(names.get(0).emptyFile());
      names.stream().skip(1).forEach(n -> ready.add(hardLink(n, names.get(0).name)));
    }
    byte[] rest = new byte[1 << 16];
    int n;
    while ((n = in.read(rest)) >= 0) {
      for (int i = 0; i < n && doubts.isEmpty(); i++) {
        if (rest[i] != 0) {
          doubts.add(
              "goes on behind its trailer at byte " + at + ": cpio leaves out what stands there");
        }
      }
    }
  }

  private byte[] take(int length) throws IOException {
    byte[] bytes = in.readNBytes(length);
    at += bytes.length;
    if (bytes.length < length) {
      throw new BrokenArchive("the cpio archive is cut off at byte " + at);
    }
    return bytes;
  }

  private Header header() throws IOException {
    byte[] magic = take(2);
    int first = magic[0] & 0xff;
    int second = magic[1] & 0xff;
    if (first == 0xc7 && second == 0x71 || first == 0x71 && second == 0xc7) {
      return binary(first == 0xc7);
    }
    String kind = new String(magic, StandardCharsets.ISO_8859_1)
        + new String(take(4), StandardCharsets.ISO_8859_1);
    return switch (kind) {
      case "070707" -> octets();
      case "070701", "070702" -> newer(kind.equals("070702"));
      default ->
        throw new BrokenArchive("at byte " + (at - 6) + " there is no header of a cpio archive");
    };
  }

  private static long number(byte[] bytes, int from, int length, int radix) throws BrokenArchive {
    String text = new String(bytes, from, length, StandardCharsets.ISO_8859_1);
    try {
      if (text.startsWith("+") || text.startsWith("-")) {
        throw new NumberFormatException(text);
      }
      return Long.parseLong(text, radix);
    } catch (NumberFormatException e) {
      throw new BrokenArchive("a header of the cpio archive has a field that is no number", e);
    }
  }

  private String name(long length) throws IOException {
    if (length > PaxRecords.LONGEST_NAME) {
      throw new HostileArchive(
          EntryName.of(take(60)) + "…",
          "has a name of " + length + " bytes: no file system takes that");
    }
    if (length < 1) {
      throw new BrokenArchive("a header of the cpio archive has no name");
    }
    return EntryName.of(take((int) length), 0, (int) length - 1);
  }

  private Header newer(boolean summed) throws IOException {
    byte[] fields = take(104);
    long[] n = new long[13];
    for (int i = 0; i < n.length; i++) {
      n[i] = number(fields, 8 * i, 8, 16);
    }
    String name = name(n[11]);
    take((int) (-(110 + n[11]) & 3));
    return new Header(
        name,
        n[6],
        (int) n[1],
        n[4],
        n[7] + ":" + n[8] + ":" + n[0],
        Instant.ofEpochSecond(n[5]),
        n[9] + "," + n[10],
        (int) (-n[6] & 3),
        summed && ((int) n[1] & TYPE) == 0100000 ? n[12] : -1);
  }

  private Header octets() throws IOException {
    byte[] f = take(70);
    long device = number(f, 36, 6, 8);
    String name = name(number(f, 53, 6, 8));
    return new Header(
        name,
        number(f, 59, 11, 8),
        (int) number(f, 12, 6, 8),
        number(f, 30, 6, 8),
        number(f, 0, 6, 8) + ":" + number(f, 6, 6, 8),
        Instant.ofEpochSecond(number(f, 42, 11, 8)),
        (device >> 8) + "," + (device & 0xff),
        0,
        -1);
  }

  private Header binary(boolean littleEndian) throws IOException {
    byte[] f = take(24);
    int[] n = new int[12];
    for (int i = 0; i < n.length; i++) {
      int low = f[2 * i + (littleEndian ? 0 : 1)] & 0xff;
      int high = f[2 * i + (littleEndian ? 1 : 0)] & 0xff;
      n[i] = high << 8 | low;
    }
    String name = name(n[9]);
    take(n[9] & 1);
    long size = (long) n[10] << 16 | n[11];
    return new Header(
        name,
        size,
        n[2],
        n[5],
        n[0] + ":" + n[1],
        Instant.ofEpochSecond((long) n[7] << 16 | n[8]),
        (n[6] >> 8) + "," + (n[6] & 0xff),
        (int) (size & 1),
        -1);
  }

  /** The bytes of one entry. */
  private final class Content extends Pieces {
    private final Header header;
    private long left;
    private long sum;
    private boolean padded;

    Content(Header header) {
      this.header = header;
      this.left = header.size;
    }

    @Override
    public int read(byte[] buffer, int offset, int length) throws IOException {
      if (left == 0) {
        whole();
        return -1;
      }
      int n = in.read(buffer, offset, (int) Math.min(length, left));
      if (n < 0) {
        throw new BrokenArchive("the cpio archive is cut off at byte " + at
            + ", in the middle of \"" + EntryName.shown(header.name) + "\"");
      }
      left -= n;
      at += n;
      if (header.sum >= 0) {
        for (int i = offset; i < offset + n; i++) {
          sum += buffer[i] & 0xff;
        }
      }
      return n;
    }

    private void whole() throws IOException {
      if (padded) {
        return;
      }
      padded = true;
      take(header.padding);
      if (header.sum >= 0 && (sum & 0xffffffffL) != header.sum && header.size > 0) {
        throw new BrokenArchive("entry \"" + EntryName.shown(header.name)
            + "\" is damaged: the sum of its bytes is not the one that is stored");
      }
    }

    void finish() throws IOException {
      byte[] buffer = new byte[1 << 16];
      while (read(buffer, 0, buffer.length) >= 0) {
        // read over
      }
    }
  }

  @Override
  public InputStream content() {
    return content == null ? InputStream.nullInputStream() : content;
  }

  @Override
  public List<String> doubts() {
    return List.copyOf(doubts);
  }

  /** The stream stays open: its checksum is still to be made. */
  @Override
  public void close() {
    // nothing of its own
  }
}
