package hardproof.proving.archives;

import hardproof.proving.formats.NotReadHere;
import hardproof.proving.names.EntryName;
import hardproof.proving.sandboxes.Sandboxes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;

/** The places of a {@link LayerTree}: what stands at each, on the disk or in the list beside it. */
final class LayerPlaces {
  private final Path root;
  private final Set<String> added = new HashSet<>();
  private final TreeMap<String, SpecialEntry> specials = new TreeMap<>();

  LayerPlaces(Path root) {
    this.root = root;
  }

  /** Paths that the layer put which is being put. */
  Set<String> added() {
    return added;
  }

  /** What is neither file nor folder, by path. */
  TreeMap<String, SpecialEntry> specials() {
    return specials;
  }

  /**
   * The path of an entry below the root, as tar and unzip place it: without a leading slash.
   *
   * @throws HostileArchive when it leads out
   */
  String path(String name) throws HostileArchive {
    if (name.indexOf('\0') >= 0) {
      throw new HostileArchive(name, "has a NUL in its name");
    }
    String path = EntryName.path(name);
    if (path.equals("..")
        || path.startsWith("../")
        || path.endsWith("/..")
        || path.contains("/../")) {
      throw new HostileArchive(name, "leaves the sandbox");
    }
    return path;
  }

  Path place(String path) throws NotReadHere {
    try {
      return root.resolve(path);
    } catch (InvalidPathException e) {
      throw new NotReadHere(
          "the name \"" + EntryName.shown(path)
              + "\" can't be written here: this process was started"
              + " under a locale without UTF-8; start it by ./hard-proof, or under LC_ALL=C.UTF-8",
          e);
    }
  }

  static String parent(String path) {
    int slash = path.lastIndexOf('/');
    return slash < 0 ? "" : path.substring(0, slash);
  }

  /** A path whose way leads through what is no folder: there is nothing. */
  boolean standsBelowAFile(String path) throws IOException {
    for (int at = path.indexOf('/'); at >= 0; at = path.indexOf('/', at + 1)) {
      String above = path.substring(0, at);
      if (specials.containsKey(above)
          || !Files.isDirectory(place(above), LinkOption.NOFOLLOW_LINKS)) {
        return true;
      }
    }
    return false;
  }

  /** Nothing goes through a link, be it one of an archive or one that somebody put on the disk. */
  void refuseLink(String name, String path) throws IOException {
    SpecialEntry special = specials.get(path);
    boolean link = special != null && special.kind() == ArchiveEntry.Kind.LINK;
    if (link || Files.isSymbolicLink(place(path))) {
      throw new HostileArchive(name, "goes through the link " + EntryName.shown(path));
    }
  }

  /** Makes a folder and those above it. */
  void makeFolders(String name, String folder) throws IOException {
    if (folder.isEmpty()) {
      return;
    }
    for (int at = folder.indexOf('/'); ; at = folder.indexOf('/', at + 1)) {
      String path = at < 0 ? folder : folder.substring(0, at);
      refuseLink(name, path);
      makeFolder(path);
      if (at < 0) {
        return;
      }
    }
  }

  private void makeFolder(String path) throws IOException {
    if (!Files.isDirectory(place(path), LinkOption.NOFOLLOW_LINKS)) {
      clear(path);
      Files.createDirectory(place(path));
      added.add(path);
    }
  }

  /** Removes whatever stands at a path. */
  void clear(String path) throws IOException {
    specials.remove(path);
    specials.subMap(path + "/", path + "0").clear();
    Sandboxes.removeTree(place(path));
  }

  List<String> children(String folder) throws IOException {
    String above = folder.isEmpty() ? "" : folder + "/";
    Set<String> children = new HashSet<>();
    addSpecials(above, children);
    Path place = place(folder);
    if (Files.isDirectory(place, LinkOption.NOFOLLOW_LINKS)) {
      try (Stream<Path> list = Files.list(place)) {
        list.forEach(p -> children.add(above + p.getFileName()));
      }
    }
    return List.copyOf(children);
  }

  private void addSpecials(String above, Set<String> children) {
    for (String special : specials.tailMap(above).keySet()) {
      if (!special.startsWith(above)) {
        break;
      }
      if (special.indexOf('/', above.length()) < 0) {
        children.add(special);
      }
    }
  }

  /** Removes what lower layers put at or below a path; what this layer added stays. */
  void clearLower(String path, boolean itself) throws IOException {
    if (itself && specials.containsKey(path)) {
      if (!added.contains(path)) {
        specials.remove(path);
      }
      return;
    }
    Path place = place(path);
    if (Files.isDirectory(place, LinkOption.NOFOLLOW_LINKS)) {
      clearFolder(path, itself, place);
    } else if (itself && !added.contains(path)) {
      Files.deleteIfExists(place);
    }
  }

  private void clearFolder(String path, boolean itself, Path place) throws IOException {
    for (String child : children(path)) {
      clearLower(child, true);
    }
    if (itself && !added.contains(path) && children(path).isEmpty()) {
      Files.delete(place);
    }
  }
}
