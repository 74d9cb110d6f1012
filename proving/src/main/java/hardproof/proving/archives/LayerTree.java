package hardproof.proving.archives;

import hardproof.proving.formats.NotReadHere;
import hardproof.proving.names.EntryName;
import hardproof.proving.sandboxes.SandboxFile;
import hardproof.proving.sandboxes.Sandboxes;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.nio.file.attribute.PosixFilePermission;
import java.time.Instant;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;

/**
 * The folder that layers are put into, one over another. Only files and folders are made in it; links,
 * pipes and devices are kept in a list beside it. So whatever the names and links of entries say, nothing
 * is written, removed or read outside of it, and no more is written than the limits allow.
 */
final class LayerTree {
  /** Of files whose archive does not tell when they were modified. */
  static final Instant NO_TIME = Instant.EPOCH;

  private final Path root;
  private final UnpackLimits limits;
  private final Set<String> added = new HashSet<>();
  private final TreeMap<String, SpecialEntry> specials = new TreeMap<>();
  private final Set<String> untoldModes = new HashSet<>();
  private long bytes;
  private long entries;

  /**
   * @param root is there, and made by us
   */
  LayerTree(Path root, UnpackLimits limits) {
    this.root = root;
    this.limits = limits;
  }

  /**
   * The tree that begins at a folder below {@code root}; the folder is made where it is not there.
   *
   * @throws HostileArchive when the way to it goes through a link that stands on the disk
   */
  static LayerTree below(Path root, String folder, UnpackLimits limits) throws IOException {
    LayerTree whole = new LayerTree(root, limits);
    whole.makeFolders(folder, whole.path(folder));
    return new LayerTree(whole.place(whole.path(folder)), limits);
  }

  long bytes() {
    return bytes;
  }

  long entries() {
    return entries;
  }

  /** Paths of files whose permissions nothing told. */
  Set<String> untoldModes() {
    return untoldModes;
  }

  /** What is neither file nor folder, by path. */
  Map<String, SpecialEntry> specials() {
    return specials;
  }

  /** What is put from now on belongs to a new layer. */
  void nextLayer() {
    added.clear();
  }

  void countEntry(String name) throws NotReadHere {
    if (++entries > limits.maxEntries()) {
      throw new NotReadHere(
          "entry \"" + EntryName.shown(name) + "\" is one too many: a run may write "
              + limits.maxEntries() + " entries; an administrator can allow more");
    }
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

  private Path place(String path) throws NotReadHere {
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

  /** Takes away what lower layers put at a path; nothing where there is nothing. */
  void takeAway(String path) throws IOException {
    if (standsBelowAFile(path)) {
      return;
    }
    clearLower(path, true);
  }

  /** Takes away what lower layers put into a folder. */
  void empty(String folder) throws IOException {
    if (!standsBelowAFile(folder)) {
      clearLower(folder, false);
    }
  }

  /** Takes away what lower layers put into a folder, but for these names. */
  void keepOnly(String folder, Set<String> names) throws IOException {
    for (String child : children(folder)) {
      if (!names.contains(child.substring(child.lastIndexOf('/') + 1))) {
        clearLower(child, true);
      }
    }
  }

  /**
   * Gives a folder of lower layers another name; nothing where there is no such folder.
   *
   * @throws BrokenArchive when something stands there: GNU tar, whose archives tell of renames, can't restore
   *     that either
   */
  void rename(String from, String to) throws IOException {
    String source = path(from);
    String target = path(to);
    if (source.isEmpty()
        || target.isEmpty()
        || standsBelowAFile(source)
        || !Files.isDirectory(place(source), LinkOption.NOFOLLOW_LINKS)
        || source.equals(target)) {
      return;
    }
    String shown = "it renames the folder " + EntryName.shown(from) + " to " + EntryName.shown(to);
    if (target.startsWith(source + "/")) {
      throw new BrokenArchive(shown + ", which is below it");
    }
    makeFolders(to, parent(target));
    boolean folder = Files.isDirectory(place(target), LinkOption.NOFOLLOW_LINKS);
    boolean taken = folder
        ? !children(target).isEmpty()
        : Files.exists(place(target), LinkOption.NOFOLLOW_LINKS);
    if (taken || specials.containsKey(target)) {
      throw new BrokenArchive(shown + ", where something stands: tar can't restore that");
    }
    clear(target);
    Files.move(place(source), place(target));
    Map<String, SpecialEntry> below = specials.subMap(source + "/", source + "0");
    List<SpecialEntry> moved = List.copyOf(below.values());
    below.clear();
    for (SpecialEntry special : moved) {
      String path = target + special.path().substring(source.length());
      specials.put(path, special.at(path));
    }
  }

  /** A path whose way leads through what is no folder: there is nothing. */
  private boolean standsBelowAFile(String path) throws IOException {
    for (int at = path.indexOf('/'); at >= 0; at = path.indexOf('/', at + 1)) {
      String above = path.substring(0, at);
      if (specials.containsKey(above)
          || !Files.isDirectory(place(above), LinkOption.NOFOLLOW_LINKS)) {
        return true;
      }
    }
    return false;
  }

  void folder(String name) throws IOException {
    String path = path(name);
    makeFolders(name, parent(path));
    if (!path.isEmpty()) {
      Path target = place(path);
      if (!Files.isDirectory(target, LinkOption.NOFOLLOW_LINKS)) {
        clear(path);
        Files.createDirectory(target);
      }
      added.add(path);
    }
  }

  /**
   * @param mode permissions as in a tar header; null when not known
   * @param modified null when not known
   */
  void file(String name, InputStream content, Integer mode, Instant modified) throws IOException {
    String path = taken(name);
    write(content, name, place(path));
    if (mode == null) {
      untoldModes.add(path);
    } else {
      untoldModes.remove(path);
    }
    attributes(place(path), mode, modified);
  }

  /** Keeps a link, a pipe or a device beside the tree. */
  void special(ArchiveEntry entry) throws IOException {
    if (entry.kind() == ArchiveEntry.Kind.LINK
        && (entry.target().isEmpty() || entry.target().indexOf('\0') >= 0)) {
      throw new BrokenArchive(
          "entry \"" + EntryName.shown(entry.name()) + "\" is a link to what is no path");
    }
    String path = taken(entry.name());
    specials.put(
        path, new SpecialEntry(path, entry.kind(), entry.target(), entry.mode(), entry.modified()));
  }

  /** Makes place for an entry that is no folder. */
  private String taken(String name) throws IOException {
    String path = path(name);
    if (path.isEmpty()) {
      throw new BrokenArchive("entry \"" + EntryName.shown(name) + "\" has no name");
    }
    makeFolders(name, parent(path));
    clear(path);
    added.add(path);
    return path;
  }

  void hardLink(String name, String to) throws IOException {
    String path = path(name);
    String target = path(to);
    String shown = "entry \"" + EntryName.shown(name) + "\" is a hard link to ";
    if (target.equals(path)) {
      return;
    }
    if (target.startsWith(path + "/") || path.startsWith(target + "/")) {
      throw new BrokenArchive(shown + EntryName.shown(to) + ", which it would replace");
    }
    for (int at = target.indexOf('/'); at >= 0; at = target.indexOf('/', at + 1)) {
      refuseLink(name, target.substring(0, at));
    }
    SpecialEntry special = specials.get(target);
    if (special != null) {
      taken(name);
      specials.put(path, special.at(path));
    } else if (Files.isRegularFile(place(target), LinkOption.NOFOLLOW_LINKS)) {
      taken(name);
      Files.createLink(place(path), place(target));
    } else if (Files.isSymbolicLink(place(target))) {
      throw new HostileArchive(name, "is a hard link to the link " + EntryName.shown(target));
    } else {
      throw new BrokenArchive(shown + EntryName.shown(to) + ", which is not there");
    }
  }

  private static String parent(String path) {
    int slash = path.lastIndexOf('/');
    return slash < 0 ? "" : path.substring(0, slash);
  }

  /** Nothing goes through a link, be it one of an archive or one that somebody put on the disk. */
  private void refuseLink(String name, String path) throws IOException {
    SpecialEntry special = specials.get(path);
    boolean link = special != null && special.kind() == ArchiveEntry.Kind.LINK;
    if (link || Files.isSymbolicLink(place(path))) {
      throw new HostileArchive(name, "goes through the link " + EntryName.shown(path));
    }
  }

  /** Makes a folder and those above it. */
  private void makeFolders(String name, String folder) throws IOException {
    if (folder.isEmpty()) {
      return;
    }
    for (int at = folder.indexOf('/'); ; at = folder.indexOf('/', at + 1)) {
      String path = at < 0 ? folder : folder.substring(0, at);
      refuseLink(name, path);
      if (!Files.isDirectory(place(path), LinkOption.NOFOLLOW_LINKS)) {
        clear(path);
        Files.createDirectory(place(path));
        added.add(path);
      }
      if (at < 0) {
        return;
      }
    }
  }

  /** Removes whatever stands at a path. */
  private void clear(String path) throws IOException {
    specials.remove(path);
    specials.subMap(path + "/", path + "0").clear();
    Sandboxes.removeTree(place(path));
  }

  private List<String> children(String folder) throws IOException {
    String above = folder.isEmpty() ? "" : folder + "/";
    Set<String> children = new HashSet<>();
    for (String special : specials.tailMap(above).keySet()) {
      if (!special.startsWith(above)) {
        break;
      }
      if (special.indexOf('/', above.length()) < 0) {
        children.add(special);
      }
    }
    Path place = place(folder);
    if (Files.isDirectory(place, LinkOption.NOFOLLOW_LINKS)) {
      try (Stream<Path> list = Files.list(place)) {
        list.forEach(p -> children.add(above + p.getFileName()));
      }
    }
    return List.copyOf(children);
  }

  /** Removes what lower layers put at or below a path; what this layer added stays. */
  private void clearLower(String path, boolean itself) throws IOException {
    if (itself && specials.containsKey(path)) {
      if (!added.contains(path)) {
        specials.remove(path);
      }
      return;
    }
    Path place = place(path);
    if (Files.isDirectory(place, LinkOption.NOFOLLOW_LINKS)) {
      for (String child : children(path)) {
        clearLower(child, true);
      }
      if (itself && !added.contains(path) && children(path).isEmpty()) {
        Files.delete(place);
      }
    } else if (itself && !added.contains(path)) {
      Files.deleteIfExists(place);
    }
  }

  private void write(InputStream in, String name, Path target) throws IOException {
    byte[] buffer = new byte[1 << 17];
    try (SandboxFile out = SandboxFile.create(target)) {
      int n;
      while ((n = in.read(buffer)) >= 0) {
        bytes += out.write(buffer, n);
        if (bytes > limits.maxBytes()) {
          throw new NotReadHere("entry \"" + EntryName.shown(name) + "\" goes over the "
              + limits.maxBytes() + " bytes that this run may write: give the sandboxes more room");
        }
      }
    }
  }

  /**
   * Times and the owner's permissions; never set-uid, and always readable by us. A file whose time is not told
   * is of {@link #NO_TIME}: it must not look as if it were of now.
   */
  private static void attributes(Path target, Integer mode, Instant modified) throws IOException {
    if (mode != null && target.getFileSystem().supportedFileAttributeViews().contains("posix")) {
      Set<PosixFilePermission> permissions = EnumSet.of(PosixFilePermission.OWNER_READ);
      PosixFilePermission[] all = PosixFilePermission.values();
      for (int bit = 0; bit < 9; bit++) {
        if ((mode & (0400 >> bit)) != 0) {
          permissions.add(all[bit]);
        }
      }
      Files.setPosixFilePermissions(target, permissions);
    }
    Files.setLastModifiedTime(target, FileTime.from(modified == null ? NO_TIME : modified));
  }
}
