package hardproof.proving.archives;

import hardproof.proving.archives.ArchiveEntry.Kind;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.names.EntryName;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
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
  private static final int MOST_HELD = 1_000_000;

  private final CpioHeaders headers;
  private final List<String> doubts = new ArrayList<>();
  private final Deque<ArchiveEntry> ready = new ArrayDeque<>();

  /** By device and inode: names of a file whose content comes with its last name. */
  private final Map<String, List<CpioHeader>> waiting = new LinkedHashMap<>();

  /** By device and inode: under which name a file's content came. */
  private final Map<String, String> placed = new HashMap<>();

  private CpioHeaders.Content content;
  private int held;
  private boolean ended;

  /**
   * @param in the archive itself, already decompressed; not closed
   */
  public CpioEntries(InputStream in) {
    this.headers = new CpioHeaders(new BufferedInputStream(in, 1 << 16));
  }

  @Override
  public ArchiveEntry next() throws IOException {
    if (content != null) {
      content.finish();
      content = null;
    }
    while (ready.isEmpty() && !ended) {
      CpioHeader header = headers.next();
      if (header.name().equals(TRAILER)) {
        end();
      } else {
        place(header);
      }
    }
    return ready.poll();
  }

  private void place(CpioHeader header) throws IOException {
    content = headers.content(header);
    int type = header.mode() & CpioHeader.TYPE;
    int mode = header.mode() & 07777;
    switch (type) {
      case 0040000 -> ready.add(ArchiveEntry.folder(header.name(), mode, header.modified()));
      case 0120000 -> link(header);
      case 0010000 -> ready.add(special(header, Kind.PIPE, null));
      case 0020000 -> ready.add(special(header, Kind.CHARACTER_DEVICE, header.device()));
      case 0060000 -> ready.add(special(header, Kind.BLOCK_DEVICE, header.device()));
      default -> file(header, mode);
    }
    finishContent();
  }

  private void link(CpioHeader header) throws IOException {
    if (header.size() > PaxRecords.LONGEST_NAME) {
      throw new HostileArchive(
          header.name(), "is a link of " + header.size() + " bytes: no file system takes that");
    }
    String target = EntryName.of(content.readAllBytes());
    ready.add(ArchiveEntry.link(header.name(), target, header.modified()));
  }

  private void finishContent() throws IOException {
    if (ready.isEmpty()) {
      content.finish();
      content = null;
    }
  }

  private static ArchiveEntry special(CpioHeader header, Kind kind, String numbers) {
    return new ArchiveEntry(
        header.name(), kind, numbers, null, header.mode() & 07777, header.modified(), null);
  }

  private static ArchiveEntry hardLink(CpioHeader header, String to) {
    return new ArchiveEntry(header.name(), Kind.HARD_LINK, to, null, null, header.modified(), null);
  }

  private void file(CpioHeader header, int mode) throws NotReadHere {
    boolean linked = header.links() > 1;
    if (linked && header.size() == 0) {
      joinLater(header);
      return;
    }
    ready.add(ArchiveEntry.file(header.name(), header.size(), mode, header.modified()));
    if (linked) {
      placed.put(header.file(), header.name());
      List<CpioHeader> others = waiting.remove(header.file());
      if (others != null) {
        others.forEach(o -> ready.add(hardLink(o, header.name())));
      }
    }
  }

  private void joinLater(CpioHeader header) throws NotReadHere {
    String to = placed.get(header.file());
    if (to != null) {
      ready.add(hardLink(header, to));
    } else {
      waiting.computeIfAbsent(header.file(), f -> new ArrayList<>()).add(header);
      if (++held > MOST_HELD) {
        throw new NotReadHere(
            "more than " + MOST_HELD + " names wait for the content of the file that they share");
      }
    }
  }

  private void end() throws IOException {
    ended = true;
    for (List<CpioHeader> names : waiting.values()) {
      ready.add(names.get(0).emptyFile());
      names.stream().skip(1).forEach(n -> ready.add(hardLink(n, names.get(0).name())));
    }
    lookBehind();
  }

  private void lookBehind() throws IOException {
    byte[] rest = new byte[1 << 16];
    int n;
    while ((n = headers.rest(rest)) >= 0) {
      for (int i = 0; i < n && doubts.isEmpty(); i++) {
        if (rest[i] != 0) {
          doubts.add("goes on behind its trailer at byte " + headers.at()
              + ": cpio leaves out what stands there");
        }
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
