package hardproof.proving.sandboxes;

import hardproof.core.wording.WrongValue;
import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.stream.Stream;

/** The one folder under which every drill writes, a sandbox for each run. */
public final class Sandboxes {
  private static final String ASIDE = "aside";
  private static final String TEMPORARY = "temporary";

  private final Path root;
  private final long reserveBytes;

  /**
   * @param reserveBytes space that is always left free on the disk
   */
  public Sandboxes(Path root, long reserveBytes) {
    this.root = root.toAbsolutePath().normalize();
    this.reserveBytes = reserveBytes;
  }

  public Path root() {
    return root;
  }

  /** Bytes that sandboxes may still take, never negative. */
  public long freeBytes() throws IOException {
    Files.createDirectories(root);
    return Math.max(0, Files.getFileStore(root).getUsableSpace() - reserveBytes);
  }

  /** A file of this name marks a folder, and all below it, as production. */
  public static final String PRODUCTION = ".production";

  /**
   * Why nothing may be restored here: the folder, or one above it, is marked as production. Null when it
   * may.
   */
  public String refusal() {
    for (Path at = root; at != null; at = at.getParent()) {
      if (Files.exists(at.resolve(PRODUCTION), LinkOption.NOFOLLOW_LINKS)) {
        return "the sandbox folder is marked as production (" + at.resolve(PRODUCTION)
            + "): nothing is ever restored there. Start Hard Proof with another data folder.";
      }
    }
    return null;
  }

  /** The folder of a run's sandbox, whether it is there or not. */
  public Path folder(String run) {
    return path(run);
  }

  /** Bytes that a run's sandbox takes on the disk, as far as it can be told; links are not followed. */
  public long sizeBytes(String run) throws IOException {
    Path sandbox = path(run);
    if (!Files.isDirectory(sandbox, LinkOption.NOFOLLOW_LINKS)) {
      return 0;
    }
    long[] bytes = new long[1];
    Files.walkFileTree(sandbox, new SimpleFileVisitor<>() {
      @Override
      public FileVisitResult visitFile(Path file, BasicFileAttributes a) {
        bytes[0] += a.size();
        return FileVisitResult.CONTINUE;
      }

      @Override
      public FileVisitResult visitFileFailed(Path file, IOException e) {
        // It is being removed while it is counted.
        return FileVisitResult.CONTINUE;
      }
    });
    return bytes[0];
  }

  /** Makes an empty sandbox for a run; what an earlier try of the same run left is removed. */
  public Path open(String run) throws IOException {
    String refusal = refusal();
    if (refusal != null) {
      throw new IOException(refusal);
    }
    Path sandbox = path(run);
    remove(run);
    Files.createDirectories(sandbox);
    return sandbox;
  }

  public boolean exists(String run) {
    return Files.exists(path(run), LinkOption.NOFOLLOW_LINKS);
  }

  /** Where engines inside this process keep what does not fit into memory; they unlink it at once. */
  public Path temporary() throws IOException {
    return Files.createDirectories(root.resolve(TEMPORARY));
  }

  /** A new folder for what is only looked at, beside the sandboxes and none of them. */
  public Path aside() throws IOException {
    return Files.createTempDirectory(Files.createDirectories(root.resolve(ASIDE)), "look-");
  }

  /** Removes a folder that {@link #aside} gave; any other stays. */
  public void removeAside(Path folder) throws IOException {
    if (folder.startsWith(root.resolve(ASIDE))) {
      removeTree(folder);
    }
  }

  /** Removes what a process that was stopped had laid aside. */
  public void removeAside() throws IOException {
    removeTree(root.resolve(ASIDE));
  }

  /** Runs that have a sandbox on the disk now. */
  public List<String> present() throws IOException {
    if (!Files.isDirectory(root)) {
      return List.of();
    }
    try (Stream<Path> children = Files.list(root)) {
      return children
          .map(p -> p.getFileName().toString())
          .filter(name -> !name.equals(ASIDE) && !name.equals(TEMPORARY))
          .sorted()
          .toList();
    }
  }

  private Path path(String run) {
    if (!run.matches("[A-Za-z0-9-]{1,64}")) {
      throw new WrongValue("'" + run + "' can't be the name of a sandbox");
    }
    return root.resolve(run);
  }

  /**
   * Removes a run's sandbox with all in it; links in it are removed, never followed.
   *
   * @throws IOException also where a link stands in place of the folder: what was restored was moved
   *     elsewhere then, and removing the link would only hide it
   */
  public void remove(String run) throws IOException {
    String moved = moved(run);
    if (moved != null) {
      throw new IOException(moved);
    }
    removeTree(path(run));
  }

  /** What somebody did to a run's sandbox, so that it can't be removed from here; null when nothing. */
  public String moved(String run) throws IOException {
    Path sandbox = path(run);
    return Files.isSymbolicLink(sandbox)
        ? "in place of the folder " + sandbox + " stands a link to "
            + Files.readSymbolicLink(sandbox)
            + ": remove by hand what was moved there, then the link"
        : null;
  }

  /** Removes a tree without following links; does nothing where there is none. */
  public static void removeTree(Path tree) throws IOException {
    if (!Files.exists(tree, LinkOption.NOFOLLOW_LINKS)) {
      return;
    }
    Files.walkFileTree(tree, new SimpleFileVisitor<>() {
      @Override
      public FileVisitResult preVisitDirectory(Path dir, BasicFileAttributes a) throws IOException {
        // A restored folder may be read-only; it must still be emptied.
        if (dir.getFileSystem().supportedFileAttributeViews().contains("posix")) {
          Files.setPosixFilePermissions(dir, PosixFilePermissions.fromString("rwx------"));
        }
        return FileVisitResult.CONTINUE;
      }

      @Override
      public FileVisitResult visitFile(Path file, BasicFileAttributes a) throws IOException {
        Files.delete(file);
        return FileVisitResult.CONTINUE;
      }

      @Override
      public FileVisitResult postVisitDirectory(Path dir, IOException e) throws IOException {
        if (e != null) {
          throw e;
        }
        Files.delete(dir);
        return FileVisitResult.CONTINUE;
      }
    });
  }
}
