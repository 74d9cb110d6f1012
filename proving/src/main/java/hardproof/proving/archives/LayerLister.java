package hardproof.proving.archives;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Enumeration;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeMap;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveInputStream;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;

/** Says what layers would leave when they are unpacked one over another, without writing anything. */
public final class LayerLister {
  private static final int MOST_ENTRIES = 1_000_000;

  private final TreeMap<String, Listed> entries = new TreeMap<>();
  private final Set<String> added = new HashSet<>();

  /** What is there after all layers, by path. */
  public List<Listed> entries() {
    return new ArrayList<>(entries.values());
  }

  /**
   * @throws BrokenArchive when the bytes are no tar
   */
  public void tar(InputStream tar, String layer) throws IOException {
    added.clear();
    @SuppressWarnings("resource")
    TarArchiveInputStream in = new TarArchiveInputStream(tar, "UTF-8");
    try {
      TarArchiveEntry entry;
      while ((entry = in.getNextEntry()) != null) {
        boolean link = entry.isSymbolicLink() || entry.isLink();
        if (entry.isDirectory()) {
          folders(plain(entry.getName()));
          continue;
        }
        Instant modified = entry.getLastModifiedTime().toInstant();
        add(
            entry.getName(),
            link ? "link" : "file",
            link ? null : entry.getSize(),
            modified,
            layer);
      }
    } catch (IllegalArgumentException e) {
      throw new BrokenArchive("a tar header can't be read", e);
    }
  }

  /**
   * @throws BrokenArchive when the bytes are no zip
   */
  public void zip(Path zip, String layer) throws IOException {
    added.clear();
    try (ZipFile file = ZipFile.builder().setPath(zip).get()) {
      Enumeration<ZipArchiveEntry> all = file.getEntriesInPhysicalOrder();
      while (all.hasMoreElements()) {
        ZipArchiveEntry entry = all.nextElement();
        if (entry.isDirectory()) {
          folders(plain(entry.getName()));
        } else {
          Instant modified = entry.getLastModifiedTime() == null
              ? null
              : entry.getLastModifiedTime().toInstant();
          add(
              entry.getName(),
              entry.isUnixSymlink() ? "link" : "file",
              entry.getSize(),
              modified,
              layer);
        }
      }
    } catch (IllegalArgumentException e) {
      throw new BrokenArchive("the zip's directory can't be read", e);
    }
  }

  /** A layer that lies there as files, by path. */
  public void folder(List<String> files, String layer) throws BrokenArchive {
    added.clear();
    for (String file : files) {
      add(file, "file", null, null, layer);
    }
  }

  private static String plain(String name) {
    return name.startsWith("./") ? name.substring(2) : name;
  }

  private void add(String name, String type, Long size, Instant modified, String layer)
      throws BrokenArchive {
    String path = plain(name);
    int slash = path.lastIndexOf('/') + 1;
    String last = path.substring(slash);
    folders(path);
    if (last.equals(LayerTree.OPAQUE)) {
      takeAway(path.substring(0, slash));
    } else if (last.startsWith(LayerTree.WHITEOUT)) {
      String gone = path.substring(0, slash) + last.substring(LayerTree.WHITEOUT.length());
      if (!added.contains(gone)) {
        entries.remove(gone);
      }
      takeAway(gone + "/");
    } else {
      entries.subMap(path + "/", path + "/" + Character.MAX_VALUE).clear();
      entries.put(path, new Listed(path, type, size, modified, layer));
      added.add(path);
      if (entries.size() > MOST_ENTRIES) {
        throw new BrokenArchive("it holds more than " + MOST_ENTRIES + " entries", null);
      }
    }
  }

  /** A folder takes the place of a file; {@code path} is below it, or ends with a slash. */
  private void folders(String path) {
    for (int at = path.indexOf('/'); at >= 0; at = path.indexOf('/', at + 1)) {
      entries.remove(path.substring(0, at));
    }
  }

  private void takeAway(String prefix) {
    entries.subMap(prefix, prefix + Character.MAX_VALUE).keySet().removeIf(p -> !added.contains(p));
  }
}
