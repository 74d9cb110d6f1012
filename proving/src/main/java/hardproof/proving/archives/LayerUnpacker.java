package hardproof.proving.archives;

import hardproof.proving.sandboxes.Sandboxes;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.nio.file.attribute.PosixFilePermission;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.LongSupplier;
import java.util.stream.Stream;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveInputStream;

/**
 * Unpacks tar archives one over another into a folder, as the OCI image specification applies
 * layers ("Applying Changesets" in its layer document): later wins, {@code .wh.NAME} deletes, {@code
 * .wh..wh..opq} hides what lower layers put into the folder. Not thread-safe; one for each restore.
 */
public final class LayerUnpacker {
  private static final String WHITEOUT = ".wh.";
  private static final String OPAQUE = ".wh..wh..opq";

  private final Path root;
  private final UnpackLimits limits;
  private long bytes;
  private long entries;

  public LayerUnpacker(Path root, UnpackLimits limits) {
    this.root = root;
    this.limits = limits;
  }

  /** Bytes written so far. */
  public long bytes() {
    return bytes;
  }

  public long entries() {
    return entries;
  }

  /**
   * Unpacks one layer.
   *
   * @param tar the tar itself, already decompressed; read to its end
   * @param bytesIn how much of the artifact has been read, to notice absurd ratios
   * @throws HostileArchive when an entry must not be unpacked; the folder is then to be removed
   * @throws BrokenArchive when the bytes are no whole tar
   */
  public void apply(InputStream tar, LongSupplier bytesIn) throws IOException {
    TarEnd end = new TarEnd(tar);
    Set<Path> added = new HashSet<>();
    // Not closed here: the caller still reads the artifact to its end for the checksum.
    @SuppressWarnings("resource")
    TarArchiveInputStream in = new TarArchiveInputStream(end, "UTF-8");
    TarArchiveEntry entry;
    while ((entry = next(in)) != null) {
      if (++entries > limits.maxEntries()) {
        throw new HostileArchive(
            entry.getName(), "is one too many: more than " + limits.maxEntries() + " entries");
      }
      place(in, entry, added, bytesIn);
      end.entryEndsAt(in.getBytesRead());
    }
    end.drain();
    if (!end.seen()) {
      throw new BrokenArchive("the tar ends without its two closing blocks: it is cut off", null);
    }
  }

  private static TarArchiveEntry next(TarArchiveInputStream in) throws IOException {
    try {
      return in.getNextEntry();
    } catch (IllegalArgumentException e) {
      throw new BrokenArchive("a tar header can't be read: " + e.getMessage(), e);
    }
  }

  private void place(
      TarArchiveInputStream in, TarArchiveEntry entry, Set<Path> added, LongSupplier bytesIn)
      throws IOException {
    String name = entry.getName();
    Path target = inside(name);
    if (target.equals(root)) {
      return;
    }
    makeParents(name, target.getParent(), added);
    String last = target.getFileName().toString();
    if (last.equals(OPAQUE)) {
      clearLower(target.getParent(), added, false);
    } else if (last.startsWith(WHITEOUT)) {
      clearLower(target.resolveSibling(last.substring(WHITEOUT.length())), added, true);
    } else if (entry.isDirectory()) {
      if (!Files.isDirectory(target, LinkOption.NOFOLLOW_LINKS)) {
        Sandboxes.removeTree(target);
        Files.createDirectory(target);
      }
      added.add(target);
    } else if (entry.isSymbolicLink()) {
      link(name, entry.getLinkName(), target);
      added.add(target);
    } else if (entry.isLink()) {
      hardLink(name, entry.getLinkName(), target);
      added.add(target);
    } else if (entry.isFile() && !special(entry)) {
      Sandboxes.removeTree(target);
      write(in, name, target, bytesIn);
      attributes(entry, target);
      added.add(target);
    } else {
      throw new HostileArchive(name, "is a device, a pipe or of a type that holds no data");
    }
  }

  private static boolean special(TarArchiveEntry e) {
    return e.isCharacterDevice() || e.isBlockDevice() || e.isFIFO();
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
  private void makeParents(String name, Path parent, Set<Path> added) throws IOException {
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
  private void clearLower(Path path, Set<Path> added, boolean itself) throws IOException {
    if (Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS)) {
      List<Path> children;
      try (Stream<Path> list = Files.list(path)) {
        children = list.toList();
      }
      for (Path child : children) {
        clearLower(child, added, true);
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

  private void link(String name, String to, Path target) throws IOException {
    Path points = target.getParent().resolve(to).normalize();
    if (to.startsWith("/") || !points.startsWith(root)) {
      throw new HostileArchive(name, "is a link that points outside: " + to);
    }
    Sandboxes.removeTree(target);
    Files.createSymbolicLink(target, Path.of(to));
  }

  private void hardLink(String name, String to, Path target) throws IOException {
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
    if (!points.equals(target)) {
      Sandboxes.removeTree(target);
      Files.createLink(target, points);
    }
  }

  private void write(InputStream in, String name, Path target, LongSupplier bytesIn)
      throws IOException {
    byte[] buffer = new byte[1 << 17];
    try (OutputStream out = Files.newOutputStream(target)) {
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
  private static void attributes(TarArchiveEntry entry, Path target) throws IOException {
    if (target.getFileSystem().supportedFileAttributeViews().contains("posix")) {
      Set<PosixFilePermission> permissions = EnumSet.of(PosixFilePermission.OWNER_READ);
      PosixFilePermission[] all = PosixFilePermission.values();
      for (int bit = 0; bit < 9; bit++) {
        if ((entry.getMode() & (0400 >> bit)) != 0) {
          permissions.add(all[bit]);
        }
      }
      Files.setPosixFilePermissions(target, permissions);
    }
    Files.setLastModifiedTime(target, FileTime.from(entry.getLastModifiedTime().toInstant()));
  }
}
