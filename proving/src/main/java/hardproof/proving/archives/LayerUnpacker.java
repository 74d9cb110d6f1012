package hardproof.proving.archives;

import hardproof.proving.names.EntryName;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;

/**
 * Unpacks archives one over another into a folder, as the OCI image specification applies layers
 * ("Applying Changesets" in its layer document): later wins, {@code .wh.NAME} deletes, {@code
 * .wh..wh..opq} hides what lower layers put into the folder. Not thread-safe; one for each restore.
 */
public final class LayerUnpacker {
  private final LayerTree tree;
  private final Predicate<String> wanted;
  private final boolean all;
  private final boolean layered;
  private final Map<String, String> left = new TreeMap<>();
  private final List<String> doubts = new ArrayList<>();
  private boolean roughTimes;
  private boolean renamed;

  private LayerUnpacker(LayerTree tree, Predicate<String> wanted, boolean layered) {
    this.tree = tree;
    this.wanted = wanted == null ? name -> true : wanted;
    this.all = wanted == null;
    this.layered = layered;
  }

  /**
   * For layers.
   *
   * @param root a folder of a sandbox, made by us; what archives put into it is never followed
   */
  public LayerUnpacker(Path root, UnpackLimits limits) {
    this(new LayerTree(root, limits), null, true);
  }

  /**
   * @param wanted whether a file is unpacked, by its path below the root; what is not is only read; null
   *     for everything
   * @param layered whether names can be whiteouts; in a single archive they are names of files
   */
  public LayerUnpacker(Path root, UnpackLimits limits, Predicate<String> wanted, boolean layered) {
    this(new LayerTree(root, limits), wanted, layered);
  }

  /**
   * Unpacks one archive into a folder of what was unpacked before.
   *
   * @param root as for the constructor
   * @param folder its path below the root, whoever brought it; made where it is not there
   * @throws HostileArchive when the way to it goes through a link
   */
  public static LayerUnpacker below(Path root, String folder, UnpackLimits limits)
      throws IOException {
    return new LayerUnpacker(LayerTree.below(root, folder, limits), null, false);
  }

  /** Wanted files that are hard links to files that were not wanted, with whose they are. */
  public Map<String, String> left() {
    return left;
  }

  /** What was found that is neither file nor folder, by path. */
  public Map<String, SpecialEntry> specials() {
    return tree.specials();
  }

  /** What other programs may make something else of, in words that follow "the archive". */
  public List<String> doubts() {
    return doubts;
  }

  /** What the archives did not tell. */
  public Untold untold() {
    return new Untold(Set.copyOf(tree.untoldModes()), roughTimes);
  }

  /** Bytes written so far. */
  public long bytes() {
    return tree.bytes();
  }

  public long entries() {
    return tree.entries();
  }

  /** Unpacks one layer that is a tar, decompressed; read to its end. */
  public void apply(InputStream tar) throws IOException {
    apply(new TarEntries(tar));
  }

  /**
   * Unpacks one layer to its end.
   *
   * @throws HostileArchive when an entry must not be unpacked; the folder is then to be removed
   * @throws BrokenArchive when the bytes are no whole archive
   * @throws hardproof.proving.formats.NotReadHere when it takes what we lack
   */
  public void apply(ArchiveEntries entries) throws IOException {
    tree.nextLayer();
    long before = tree.entries();
    ArchiveEntry entry;
    while ((entry = entries.next()) != null) {
      tree.countEntry(entry.name());
      if (!whiteout(entry.name())) {
        place(entry, entries);
      }
    }
    addDoubts(entries, before);
  }

  private void addDoubts(ArchiveEntries entries, long before) {
    doubts.addAll(entries.doubts());
    roughTimes |= entries.roughTimes();
    if (tree.entries() == before) {
      doubts.add("holds no entry at all");
    }
    if (renamed && !all) {
      doubts.add("gives folders other names, so that what was wanted may have been another's");
    }
  }

  private boolean whiteout(String name) throws IOException {
    Whiteout whiteout = layered ? Whiteout.of(tree.path(name)) : null;
    if (whiteout == null) {
      return false;
    }
    if (whiteout.opaque()) {
      tree.empty(whiteout.path());
    } else {
      tree.takeAway(whiteout.path());
    }
    return true;
  }

  private boolean wants(String name) {
    return all || wanted.test(EntryName.path(name));
  }

  private void place(ArchiveEntry entry, ArchiveEntries entries) throws IOException {
    String name = entry.name();
    switch (entry.kind()) {
      case FOLDER -> folder(entry, name);
      case FILE -> file(entry, entries, name);
      case HARD_LINK -> hardLink(name, entry.target());
      case LINK, PIPE, CHARACTER_DEVICE, BLOCK_DEVICE -> tree.special(entry);
      default -> throw new IllegalStateException("nothing is known of " + entry.kind());
    }
  }

  private void folder(ArchiveEntry entry, String name) throws IOException {
    tree.folder(name);
    if (entry.kept() != null) {
      for (Dumpdir.Rename rename : entry.kept().renames()) {
        tree.rename(rename.from(), rename.to());
        renamed = true;
      }
      tree.keepOnly(tree.path(name), entry.kept().names());
    }
  }

  private void file(ArchiveEntry entry, ArchiveEntries entries, String name) throws IOException {
    tree.path(name);
    if (wants(name)) {
      try (InputStream content = entries.content()) {
        tree.file(name, content, entry.mode(), entry.modified());
      }
    }
  }

  private void hardLink(String name, String to) throws IOException {
    if (!wants(name)) {
      tree.path(name);
    } else if (wants(to)) {
      tree.hardLink(name, to);
    } else {
      left.put(EntryName.path(name), EntryName.path(to));
    }
  }

  /** Begins a layer whose files are put one by one. */
  public void nextLayer() {
    tree.nextLayer();
  }

  /**
   * Puts one file of a layer that is a folder.
   *
   * @param mode permissions; null when not known
   */
  public void put(String name, InputStream content, Integer mode, Instant modified)
      throws IOException {
    tree.countEntry(name);
    if (!whiteout(name) && wants(name)) {
      tree.file(name, content, mode, modified);
    }
  }

  /** Puts a folder of a layer that is a folder. */
  public void putFolder(String name) throws IOException {
    tree.countEntry(name);
    tree.folder(name);
  }

  /** Keeps what a layer that is a folder has beside its files. */
  public void put(SpecialEntry entry) throws IOException {
    tree.countEntry(entry.path());
    tree.special(new ArchiveEntry(
        entry.path(), entry.kind(), entry.target(), null, entry.mode(), entry.modified(), null));
  }
}
