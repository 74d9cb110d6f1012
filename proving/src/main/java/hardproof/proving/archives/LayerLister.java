package hardproof.proving.archives;

import hardproof.proving.names.EntryName;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeMap;

/** Says what layers would leave when they are unpacked one over another, without writing anything. */
public final class LayerLister {
  private static final int MOST_ENTRIES = 1_000_000;

  private final TreeMap<String, Listed> entries = new TreeMap<>();
  private final Set<String> added = new HashSet<>();
  private final boolean layered;

  /**
   * @param layered whether names can be whiteouts, as for {@link LayerUnpacker}
   */
  public LayerLister(boolean layered) {
    this.layered = layered;
  }

  /** What is there after all layers, by path. */
  public List<Listed> entries() {
    return new ArrayList<>(entries.values());
  }

  /**
   * Lists one layer to its end; contents are read over.
   *
   * @param layer place of the point: which artifact it is
   */
  public void apply(ArchiveEntries archive, String layer) throws IOException {
    added.clear();
    ArchiveEntry entry;
    while ((entry = archive.next()) != null) {
      String path = EntryName.path(entry.name());
      switch (entry.kind()) {
        case FOLDER -> folder(entry, path);
        case FILE -> add(path, "file", entry.sizeBytes(), entry.modified(), layer);
        case LINK, HARD_LINK -> add(path, "link", null, entry.modified(), layer);
        default -> add(path, "device", null, entry.modified(), layer);
      }
    }
  }

  private void folder(ArchiveEntry entry, String path) {
    folders(path + "/");
    if (entry.kept() != null) {
      entry.kept().renames().forEach(this::rename);
      keepOnly(path, entry.kept().names());
    }
  }

  /** A layer that lies there as files, by path. */
  public void folder(List<String> files, String layer) throws IOException {
    added.clear();
    for (String file : files) {
      add(file, "file", null, null, layer);
    }
  }

  private void add(String path, String type, Long size, Instant modified, String layer)
      throws IOException {
    Whiteout whiteout = layered ? Whiteout.of(path) : null;
    if (whiteout != null) {
      takeAwayBy(whiteout);
      return;
    }
    folders(path);
    entries.subMap(path + "/", path + "0").clear();
    entries.put(path, new Listed(path, type, size, modified, layer));
    added.add(path);
    if (entries.size() > MOST_ENTRIES) {
      throw new BrokenArchive("it holds more than " + MOST_ENTRIES + " entries");
    }
  }

  private void takeAwayBy(Whiteout whiteout) {
    if (whiteout.opaque()) {
      takeAway(whiteout.path().isEmpty() ? "" : whiteout.path() + "/");
    } else {
      if (!added.contains(whiteout.path())) {
        entries.remove(whiteout.path());
      }
      takeAway(whiteout.path() + "/");
    }
  }

  /** A folder takes the place of a file; {@code path} is below it, or ends with a slash. */
  private void folders(String path) {
    for (int at = path.indexOf('/'); at >= 0; at = path.indexOf('/', at + 1)) {
      entries.remove(path.substring(0, at));
    }
  }

  private void rename(Dumpdir.Rename rename) {
    String from = EntryName.path(rename.from());
    String to = EntryName.path(rename.to());
    List<Listed> moved = List.copyOf(entries.subMap(from + "/", from + "0").values());
    entries.subMap(from + "/", from + "0").clear();
    for (Listed file : moved) {
      String path = to + file.path().substring(from.length());
      entries.put(path, file.at(path));
    }
  }

  private void keepOnly(String folder, Set<String> names) {
    String above = folder.isEmpty() ? "" : folder + "/";
    below(above).removeIf(p -> {
      int end = p.indexOf('/', above.length());
      String child = p.substring(above.length(), end < 0 ? p.length() : end);
      return !names.contains(child) && !added.contains(p);
    });
  }

  private void takeAway(String prefix) {
    below(prefix).removeIf(p -> !added.contains(p));
  }

  private Set<String> below(String prefix) {
    return prefix.isEmpty()
        ? entries.keySet()
        : entries.subMap(prefix, prefix + Character.MAX_VALUE).keySet();
  }
}
