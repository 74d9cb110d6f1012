package hardproof.proving.archives;

import hardproof.proving.formats.NotReadHere;
import hardproof.proving.names.EntryName;
import hardproof.proving.sandboxes.SandboxFile;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
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

/**
 * The folder that layers are put into, one over another. Only files and folders are made in it; links,
 * pipes and devices are kept in a list beside it. So whatever the names and links of entries say, nothing
 * is written, removed or read outside of it, and no more is written than the limits allow.
 */
final class LayerTree {
  /** Of files whose archive does not tell when they were modified. */
  static final Instant NO_TIME = Instant.EPOCH;

  private final LayerPlaces places;
  private final UnpackLimits limits;
  private final Set<String> untoldModes = new HashSet<>();
  private long bytes;
  private long entries;

  /**
   * @param root is there, and made by us
   */
  LayerTree(Path root, UnpackLimits limits) {
    this.places = new LayerPlaces(root);
    this.limits = limits;
  }

  /**
   * The tree that begins at a folder below {@code root}; the folder is made where it is not there.
   *
   * @throws HostileArchive when the way to it goes through a link that stands on the disk
   */
  static LayerTree below(Path root, String folder, UnpackLimits limits) throws IOException {
    LayerPlaces whole = new LayerPlaces(root);
    String path = whole.path(folder);
    whole.makeFolders(folder, path);
    return new LayerTree(whole.place(path), limits);
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
    return places.specials();
  }

  /** What is put from now on belongs to a new layer. */
  void nextLayer() {
    places.added().clear();
  }

  /**
   * @throws HostileArchive when it leads out
   */
  String path(String name) throws HostileArchive {
    return places.path(name);
  }

  void countEntry(String name) throws NotReadHere {
    if (++entries > limits.maxEntries()) {
      throw new NotReadHere(
          "entry \"" + EntryName.shown(name) + "\" is one too many: a run may write "
              + limits.maxEntries() + " entries; an administrator can allow more");
    }
  }

  /** Takes away what lower layers put at a path; nothing where there is nothing. */
  void takeAway(String path) throws IOException {
    if (places.standsBelowAFile(path)) {
      return;
    }
    places.clearLower(path, true);
  }

  /** Takes away what lower layers put into a folder. */
  void empty(String folder) throws IOException {
    if (!places.standsBelowAFile(folder)) {
      places.clearLower(folder, false);
    }
  }

  /** Takes away what lower layers put into a folder, but for these names. */
  void keepOnly(String folder, Set<String> names) throws IOException {
    for (String child : places.children(folder)) {
      if (!names.contains(child.substring(child.lastIndexOf('/') + 1))) {
        places.clearLower(child, true);
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
    String source = places.path(from);
    String target = places.path(to);
    if (staysWhereItIs(source, target)) {
      return;
    }
    String shown = "it renames the folder " + EntryName.shown(from) + " to " + EntryName.shown(to);
    if (target.startsWith(source + "/")) {
      throw new BrokenArchive(shown + ", which is below it");
    }
    places.makeFolders(to, LayerPlaces.parent(target));
    requireFree(target, shown);
    move(source, target);
  }

  private boolean staysWhereItIs(String source, String target) throws IOException {
    return source.isEmpty()
        || target.isEmpty()
        || places.standsBelowAFile(source)
        || !Files.isDirectory(places.place(source), LinkOption.NOFOLLOW_LINKS)
        || source.equals(target);
  }

  private void requireFree(String target, String shown) throws IOException {
    boolean folder = Files.isDirectory(places.place(target), LinkOption.NOFOLLOW_LINKS);
    boolean taken = folder
        ? !places.children(target).isEmpty()
        : Files.exists(places.place(target), LinkOption.NOFOLLOW_LINKS);
    if (taken || places.specials().containsKey(target)) {
      throw new BrokenArchive(shown + ", where something stands: tar can't restore that");
    }
  }

  private void move(String source, String target) throws IOException {
    places.clear(target);
    Files.move(places.place(source), places.place(target));
    Map<String, SpecialEntry> below = places.specials().subMap(source + "/", source + "0");
    List<SpecialEntry> moved = List.copyOf(below.values());
    below.clear();
    for (SpecialEntry special : moved) {
      String path = target + special.path().substring(source.length());
      places.specials().put(path, special.at(path));
    }
  }

  void folder(String name) throws IOException {
    String path = places.path(name);
    places.makeFolders(name, LayerPlaces.parent(path));
    if (!path.isEmpty()) {
      Path target = places.place(path);
      if (!Files.isDirectory(target, LinkOption.NOFOLLOW_LINKS)) {
        places.clear(path);
        Files.createDirectory(target);
      }
      places.added().add(path);
    }
  }

  /**
   * @param mode permissions as in a tar header; null when not known
   * @param modified null when not known
   */
  void file(String name, InputStream content, Integer mode, Instant modified) throws IOException {
    String path = taken(name);
    write(content, name, places.place(path));
    if (mode == null) {
      untoldModes.add(path);
    } else {
      untoldModes.remove(path);
    }
    attributes(places.place(path), mode, modified);
  }

  /** Keeps a link, a pipe or a device beside the tree. */
  void special(ArchiveEntry entry) throws IOException {
    if (entry.kind() == ArchiveEntry.Kind.LINK
        && (entry.target().isEmpty() || entry.target().indexOf('\0') >= 0)) {
      throw new BrokenArchive(
          "entry \"" + EntryName.shown(entry.name()) + "\" is a link to what is no path");
    }
    String path = taken(entry.name());
    places
        .specials()
        .put(
            path,
            new SpecialEntry(path, entry.kind(), entry.target(), entry.mode(), entry.modified()));
  }

  /** Makes place for an entry that is no folder. */
  private String taken(String name) throws IOException {
    String path = places.path(name);
    if (path.isEmpty()) {
      throw new BrokenArchive("entry \"" + EntryName.shown(name) + "\" has no name");
    }
    places.makeFolders(name, LayerPlaces.parent(path));
    places.clear(path);
    places.added().add(path);
    return path;
  }

  void hardLink(String name, String to) throws IOException {
    String path = places.path(name);
    String target = places.path(to);
    String shown = "entry \"" + EntryName.shown(name) + "\" is a hard link to ";
    if (target.equals(path)) {
      return;
    }
    if (target.startsWith(path + "/") || path.startsWith(target + "/")) {
      throw new BrokenArchive(shown + EntryName.shown(to) + ", which it would replace");
    }
    for (int at = target.indexOf('/'); at >= 0; at = target.indexOf('/', at + 1)) {
      places.refuseLink(name, target.substring(0, at));
    }
    link(name, to, path, target, shown);
  }

  private void link(String name, String to, String path, String target, String shown)
      throws IOException {
    SpecialEntry special = places.specials().get(target);
    if (special != null) {
      taken(name);
      places.specials().put(path, special.at(path));
    } else if (Files.isRegularFile(places.place(target), LinkOption.NOFOLLOW_LINKS)) {
      taken(name);
      Files.createLink(places.place(path), places.place(target));
    } else if (Files.isSymbolicLink(places.place(target))) {
      throw new HostileArchive(name, "is a hard link to the link " + EntryName.shown(target));
    } else {
      throw new BrokenArchive(shown + EntryName.shown(to) + ", which is not there");
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
