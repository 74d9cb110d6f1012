package hardproof.proving.archives;

import hardproof.proving.sandboxes.SandboxOutput;
import hardproof.proving.sandboxes.Sandboxes;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.nio.file.attribute.PosixFilePermission;
import java.time.Instant;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.LongSupplier;
import java.util.stream.Stream;

/**
 * The folder that layers are put into, one over another. Whatever the names and links of entries
 * say, nothing is written, removed or read outside of it, and no more is written than the limits
 * allow: no step on the way to an entry may be a link, and no link that is left may lead outside,
 * also not by way of another one.
 */
final class LayerTree {
  /** Begins the name of what is taken away (OCI image specification, layers, "Whiteouts"). */
  static final String WHITEOUT = ".wh.";

  /** Takes everything away that lower layers put beside it. */
  static final String OPAQUE = ".wh..wh..opq";

  private final Path root;
  private final UnpackLimits limits;
  private final Set<Path> added = new HashSet<>();
  private final Set<Path> links = new TreeSet<>();
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
   * @throws HostileArchive when the way to it goes through a link that an archive brought
   */
  static LayerTree below(Path root, String folder, UnpackLimits limits) throws IOException {
    LayerTree whole = new LayerTree(root, limits);
    Path target = whole.inside(folder);
    whole.makeParents(folder, target);
    return new LayerTree(target, limits);
  }

  long bytes() {
    return bytes;
  }

  long entries() {
    return entries;
  }

  /** What is put from now on belongs to a new layer. */
  void nextLayer() {
    added.clear();
  }

  /**
   * To be called when a layer is whole: where a link leads can change with every entry after it, so only
   * now it can be told.
   *
   * @throws HostileArchive when a link leads outside by way of others
   */
  void endLayer() throws IOException {
    links.removeIf(link -> !Files.isSymbolicLink(link));
    LinkWalk walk = new LinkWalk(root);
    for (Path link : links) {
      if (walk.leaves(link)) {
        throw new HostileArchive(
            root.relativize(link).toString(),
            "is a link that points outside by way of another: " + Files.readSymbolicLink(link));
      }
    }
  }

  void countEntry(String name) throws HostileArchive {
    if (++entries > limits.maxEntries()) {
      throw new HostileArchive(
          name, "is one too many: more than " + limits.maxEntries() + " entries");
    }
  }

  /** Whether the name is one that takes something of lower layers away; that is then done. */
  boolean whiteout(String name) throws IOException {
    Path target = inside(name);
    if (target.equals(root) || !target.getFileName().toString().startsWith(WHITEOUT)) {
      return false;
    }
    String last = target.getFileName().toString();
    String gone = last.substring(WHITEOUT.length());
    if (gone.isEmpty() || gone.equals(".") || gone.equals("..")) {
      throw new HostileArchive(name, "takes away what is no name of a file");
    }
    makeParents(name, target.getParent());
    if (last.equals(OPAQUE)) {
      clearLower(target.getParent(), false);
    } else {
      clearLower(target.resolveSibling(gone), true);
    }
    return true;
  }

  void folder(String name) throws IOException {
    Path target = inside(name);
    if (target.equals(root)) {
      return;
    }
    makeParents(name, target.getParent());
    if (!Files.isDirectory(target, LinkOption.NOFOLLOW_LINKS)) {
      Sandboxes.removeTree(target);
      Files.createDirectory(target);
    }
    added.add(target);
  }

  /**
   * @param mode permissions as in a tar header; null when not known
   * @param modified null when not known
   */
  void file(String name, InputStream content, Integer mode, Instant modified, LongSupplier bytesIn)
      throws IOException {
    Path target = inside(name);
    if (target.equals(root)) {
      throw new BrokenArchive("entry \"" + name + "\" is a file without a name", null);
    }
    makeParents(name, target.getParent());
    Sandboxes.removeTree(target);
    write(content, name, target, bytesIn);
    attributes(target, mode, modified);
    added.add(target);
  }

  void link(String name, String to) throws IOException {
    Path target = inside(name);
    if (to.isEmpty() || to.indexOf('\0') >= 0) {
      throw new BrokenArchive("entry \"" + name + "\" is a link to what is no path", null);
    }
    Path points = target.equals(root) ? root : target.getParent().resolve(to).normalize();
    if (target.equals(root) || to.startsWith("/") || !points.startsWith(root)) {
      throw new HostileArchive(name, "is a link that points outside: " + to);
    }
    makeParents(name, target.getParent());
    Sandboxes.removeTree(target);
    Files.createSymbolicLink(target, Path.of(to));
    added.add(target);
    links.add(target);
  }

  void hardLink(String name, String to) throws IOException {
    Path target = inside(name);
    makeParents(name, target.getParent());
    Path points = inside(to);
    for (Path at = points; !at.equals(root); at = at.getParent()) {
      if (Files.isSymbolicLink(at)) {
        throw new HostileArchive(
            name, "is a hard link to or through the link " + root.relativize(at));
      }
    }
    if (!Files.isRegularFile(points, LinkOption.NOFOLLOW_LINKS)) {
      throw new BrokenArchive(
          "entry \"" + name + "\" is a hard link to " + to + ", which is not there", null);
    }
    if (points.startsWith(target) && !points.equals(target)) {
      throw new BrokenArchive(
          "entry \"" + name + "\" is a hard link to " + to + ", which it would replace", null);
    }
    if (!points.equals(target)) {
      Sandboxes.removeTree(target);
      Files.createLink(target, points);
    }
    added.add(target);
  }

  /** The place of an entry under the root, however the name is written. */
  private Path inside(String name) throws HostileArchive {
    if (name.startsWith("/") || name.matches("^[A-Za-z]:.*") || name.startsWith("\\")) {
      throw new HostileArchive(name, "has an absolute path");
    }
    if (name.indexOf('\0') >= 0) {
      throw new HostileArchive(name, "has a NUL in its name");
    }
    for (String part : name.split("[/\\\\]")) {
      if (part.equals("..")) {
        throw new HostileArchive(name, "leaves the sandbox");
      }
    }
    Path target = root.resolve(name).normalize();
    if (!target.startsWith(root)) {
      throw new HostileArchive(name, "leaves the sandbox");
    }
    return target;
  }

  /** Makes the folders above an entry; none of them may be a link, wherever that points. */
  private void makeParents(String name, Path parent) throws IOException {
    Path at = root;
    for (Path part : root.relativize(parent)) {
      at = at.resolve(part);
      if (at.equals(root)) {
        continue;
      }
      if (Files.isSymbolicLink(at)) {
        throw new HostileArchive(name, "goes through the link " + root.relativize(at));
      }
      if (!Files.isDirectory(at, LinkOption.NOFOLLOW_LINKS)) {
        Sandboxes.removeTree(at);
        Files.createDirectory(at);
        added.add(at);
      }
    }
  }

  /** Removes what lower layers put at or below a path; what this layer added stays. */
  private void clearLower(Path path, boolean itself) throws IOException {
    if (Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS)) {
      List<Path> children;
      try (Stream<Path> list = Files.list(path)) {
        children = list.toList();
      }
      for (Path child : children) {
        clearLower(child, true);
      }
      if (itself && !added.contains(path)) {
        try (Stream<Path> left = Files.list(path)) {
          if (left.findAny().isEmpty()) {
            Files.delete(path);
          }
        }
      }
    } else if (itself && !added.contains(path)) {
      Files.deleteIfExists(path);
    }
  }

  private void write(InputStream in, String name, Path target, LongSupplier bytesIn)
      throws IOException {
    byte[] buffer = new byte[1 << 17];
    try (OutputStream out = SandboxOutput.to(target)) {
      int n;
      while ((n = in.read(buffer)) >= 0) {
        bytes += n;
        if (bytes > limits.maxBytes()) {
          throw new HostileArchive(
              name, "goes over the " + limits.maxBytes() + " bytes that this run may write");
        }
        if (bytes > UnpackLimits.RATIO_FROM
            && bytes / Math.max(1, bytesIn.getAsLong()) > limits.maxRatio()) {
          throw new HostileArchive(
              name, "unpacks to more than " + limits.maxRatio() + " times its size");
        }
        out.write(buffer, 0, n);
      }
    }
  }

  /** Times and the owner's permissions; never set-uid, and always readable by us. */
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
    if (modified != null) {
      Files.setLastModifiedTime(target, FileTime.from(modified));
    }
  }
}
