package hardproof.proving.archives;

import hardproof.proving.archives.ArchiveEntry.Kind;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.names.EntryName;
import java.io.IOException;
import java.io.InputStream;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/**
 * Reads a tar of any of its forms: seventh edition, ustar, pax, GNU's (long names, files with holes of all
 * versions, incremental folders, labels) and star's. The sum of every header is compared; a library that
 * takes a damaged header, or the first zeros for the end, would lose files in silence.
 */
public final class TarEntries implements ArchiveEntries {
  /** Blocks are written in records of twenty; what fills the last one is undefined (POSIX.1, tar). */
  private static final int RECORD = 20 * TarBlock.BYTES;

  private static final int LARGEST_FOLDER_LIST = 64 << 20;
  private static final int LONGEST_MAP = 128 << 20;

  private final TarBlocks blocks;
  private final PaxRecords global = new PaxRecords();
  private final List<String> doubts = new ArrayList<>();
  private TarBlocks.Stored stored;
  private InputStream content = InputStream.nullInputStream();
  private boolean ended;

  /**
   * @param in the tar itself, already decompressed; not closed
   */
  public TarEntries(InputStream in) {
    this.blocks = new TarBlocks(in);
    this.stored = blocks.stored("", 0);
  }

  @Override
  public ArchiveEntry next() throws IOException {
    String longName = null;
    String longLink = null;
    PaxRecords own = null;
    while (!ended) {
      stored.finish();
      TarBlock header = blocks.next();
      if (header == null) {
        end();
        doubts.add("ends without its closing blocks of zeros: it may be cut off");
      } else if (header.zeros()) {
        closing();
      } else {
        refuseDamaged(header);
        stored = blocks.stored(header.name(), header.size());
        switch (header.type()) {
          case 'L' -> longName = longText();
          case 'K' -> longLink = longText();
          case 'x', 'X' -> {
            own = new PaxRecords();
            own.addAll(global);
            own.read(stored);
          }
          case 'g' -> global.read(stored);
          case 'V', 'A', 'I', 'E' -> {
            // a label, or attributes of other systems: nothing to restore
          }
          case 'M' ->
            throw new NotReadHere(
                "it is a later volume of a tar in several, which are not read here:"
                    + " one tar that holds everything is");
          case 'N' ->
            throw new NotReadHere("it holds names in a form that GNU tar gave up in 1993");
          default -> {
            return entry(header, own == null ? global : own, longName, longLink);
          }
        }
      }
    }
    return null;
  }

  private void refuseDamaged(TarBlock header) throws BrokenArchive {
    if (!header.sumIsRight()) {
      throw new BrokenArchive(
          blocks.at() == TarBlock.BYTES
              ? "it is no tar: its first 512 bytes are no header"
              : "the tar header at byte " + (blocks.at() - TarBlock.BYTES)
                  + " is damaged: its sum is not the one it holds");
    }
  }

  private void end() {
    ended = true;
    stored = blocks.stored("", 0);
  }

  private String longText() throws IOException {
    if (stored.left() > PaxRecords.LONGEST_NAME + 1) {
      throw new HostileArchive(
          EntryName.of(stored.readNBytes(60)) + "…",
          "has a name or link of " + stored.left() + " bytes: no file system takes that");
    }
    byte[] text = stored.readAllBytes();
    int length = 0;
    while (length < text.length && text[length] != 0) {
      length++;
    }
    return EntryName.of(text, 0, length);
  }

  private ArchiveEntry entry(TarBlock header, PaxRecords pax, String longName, String longLink)
      throws IOException {
    String name = pax.name("path", longName != null ? longName : header.name());
    String link = pax.name("linkpath", longLink != null ? longLink : header.linkName());
    Instant modified = pax.modified();
    if (modified == null) {
      modified = Instant.ofEpochSecond(header.modified());
    }
    int mode = header.mode();
    long size = pax.number("size", header.size());
    char type = header.type();
    boolean holdsNothing =
        "23456".indexOf(type) >= 0 || type == '1' && (size == 0 || blocks.headerFollows());
    stored = blocks.stored(name, holdsNothing ? 0 : size);
    content = stored;
    return switch (type) {
      case '1' -> new ArchiveEntry(name, Kind.HARD_LINK, link, null, null, modified, null);
      case '2' -> ArchiveEntry.link(name, link, modified);
      case '3' -> special(name, Kind.CHARACTER_DEVICE, header.device(), mode, modified);
      case '4' -> special(name, Kind.BLOCK_DEVICE, header.device(), mode, modified);
      case '6' -> special(name, Kind.PIPE, null, mode, modified);
      case '5', 'D' ->
        new ArchiveEntry(name, Kind.FOLDER, null, null, mode, modified, kept(type, pax));
      case 'S' -> sparse(name, headerMap(header), realSize(header, pax), mode, modified);
      default -> file(name, pax, size, mode, modified);
    };
  }

  private static ArchiveEntry special(
      String name, Kind kind, String numbers, int mode, Instant modified) {
    return new ArchiveEntry(name, kind, numbers, null, mode, modified, null);
  }

  private ArchiveEntry file(String name, PaxRecords pax, long size, int mode, Instant modified)
      throws IOException {
    if (name.endsWith("/")) {
      return ArchiveEntry.folder(name, mode, modified);
    }
    if (pax.number("GNU.sparse.major", 0) == 1) {
      String real = pax.name("GNU.sparse.name", name);
      long whole = pax.number("GNU.sparse.realsize", 0);
      return sparse(real, mapBeforeContent(), whole, mode, modified);
    }
    return sparseOrWhole(name, pax, size, mode, modified);
  }

  private ArchiveEntry sparseOrWhole(
      String name, PaxRecords pax, long size, int mode, Instant modified) throws IOException {
    SparseMap map = pax.sparse();
    return map == null
        ? ArchiveEntry.file(name, size, mode, modified)
        : sparse(
            pax.name("GNU.sparse.name", name),
            map,
            pax.number("GNU.sparse.size", map.end()),
            mode,
            modified);
  }

  private Dumpdir kept(char type, PaxRecords pax) throws IOException {
    if (type == 'D' && stored.left() > 0 && stored.left() <= LARGEST_FOLDER_LIST) {
      return Dumpdir.of(stored.readAllBytes());
    }
    return pax.dumped();
  }

  private ArchiveEntry sparse(String name, SparseMap map, long size, int mode, Instant modified)
      throws IOException {
    if (map.stored() != stored.left() || map.end() > size) {
      throw new BrokenArchive(
          "the map of the sparse file \"" + EntryName.shown(name) + "\" does not fit its content");
    }
    content = new SparseContent(stored, map, size);
    return ArchiveEntry.file(name, size, mode, modified);
  }

  private static long realSize(TarBlock header, PaxRecords pax) throws BrokenArchive {
    return pax.number("SCHILY.realsize", header.realSize());
  }

  private SparseMap headerMap(TarBlock header) throws IOException {
    SparseMap map = new SparseMap();
    boolean more = header.sparsePlaces(map);
    while (more) {
      TarBlock block = blocks.next();
      if (block == null) {
        throw new BrokenArchive("the tar is cut off in the map of a sparse file");
      }
      more = block.morePlaces(map);
    }
    return map;
  }

  /** Version 1.0: numbers on lines of their own before the content, filled up to whole blocks. */
  private SparseMap mapBeforeContent() throws IOException {
    long begun = stored.left();
    SparseMap map = new SparseMap();
    long places = line(begun);
    for (long i = 0; i < places; i++) {
      map.add(line(begun), line(begun));
    }
    stored.skipNBytes(-(begun - stored.left()) & TarBlock.BYTES - 1);
    return map;
  }

  private long line(long begun) throws IOException {
    long number = 0;
    int c;
    while ((c = stored.read()) != '\n') {
      if (c < '0'
          || c > '9'
          || number > Long.MAX_VALUE / 20
          || begun - stored.left() > LONGEST_MAP) {
        throw new BrokenArchive("the map of a sparse file has a line that is no number");
      }
      number = number * 10 + c - '0';
    }
    return number;
  }

  /** A block of zeros was read: the end, or what another program takes for it. */
  private void closing() throws IOException {
    long from = blocks.at() - TarBlock.BYTES;
    long zeros = 1;
    TarBlock next = blocks.nextOrNothing();
    while (next != null && next.zeros()) {
      zeros++;
      next = blocks.nextOrNothing();
    }
    if (next == null) {
      end();
      if (zeros < 2) {
        doubts.add("ends with one closing block of zeros instead of two: it may be cut off");
      }
    } else if (next.sumIsRight()) {
      blocks.again(next);
      stored = blocks.stored("", 0);
      doubts.add("has its end mark at byte " + from + " and goes on behind it with \""
          + EntryName.shown(next.name())
          + "\": tar restores what follows only with --ignore-zeros");
    } else {
      otherBytes(from);
    }
  }

  private void otherBytes(long mark) throws IOException {
    TarBlock next;
    while ((next = blocks.nextOrNothing()) != null) {
      refuseHeader(mark, next);
    }
    end();
    long recordEnds = (mark + 2 * TarBlock.BYTES + RECORD - 1) / RECORD * RECORD;
    if (blocks.at() > recordEnds) {
      doubts.add("has its end mark at byte " + mark + " and "
          + (blocks.at() - mark - 2 * TarBlock.BYTES) + " bytes behind it that are no tar");
    }
  }

  private void refuseHeader(long mark, TarBlock next) throws BrokenArchive {
    if (!next.zeros() && next.sumIsRight()) {
      throw new BrokenArchive("the tar has its end mark at byte " + mark
          + ", and behind it stand other bytes and then"
          + " the header of \"" + EntryName.shown(next.name()) + "\" at byte "
          + (blocks.at() - TarBlock.BYTES) + ": headers before it are lost");
    }
  }

  @Override
  public InputStream content() {
    return content;
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
