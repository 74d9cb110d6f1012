package hardproof.server.storage;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.stream.Stream;

/** Everything that one installation keeps, in one folder. */
public record DataFolder(Path root) {
  public DataFolder {
    root = root.toAbsolutePath().normalize();
  }

  public Path database() {
    return root.resolve("hard-proof.db");
  }

  public Path sandboxes() {
    return root.resolve("sandboxes");
  }

  public Path packs() {
    return root.resolve("packs");
  }

  /** Uploads that nobody has accepted yet. */
  public Path uploads() {
    return root.resolve("uploads");
  }

  /** Messages for a mail system to take. */
  public Path mailDrop() {
    return root.resolve("mail");
  }

  /** Reports that were issued, each in a folder of its own. */
  public Path reports() {
    return root.resolve("reports");
  }

  /** Where reports are laid for others to take: a folder for each. */
  public Path outbox() {
    return root.resolve("outbox");
  }

  /** How mail is sent; without the file it is left in {@link #mailDrop}. */
  public Path mailSettings() {
    return root.resolve("mail.properties");
  }

  /** Bundles that are laid here are taken in by themselves: a folder for each feed. */
  public Path inbox() {
    return root.resolve("inbox");
  }

  /** Keys that what is sent outside is signed with. */
  public Path keys() {
    return root.resolve("keys");
  }

  /** Folders that stores may lie in, one a line; written by whoever runs this installation. */
  public Path storeRoots() {
    return root.resolve("store-roots");
  }

  /**
   * Makes the folder, and takes every right to it and to what lies in it from everybody but its owner:
   * password hashes, keys and restored data are in there. Also what an older version made.
   */
  public void keepToOwner() throws IOException {
    Files.createDirectories(root);
    if (!root.getFileSystem().supportedFileAttributeViews().contains("posix")) {
      return;
    }
    Files.setPosixFilePermissions(root, PosixFilePermissions.fromString("rwx------"));
    List<Path> inside;
    try (Stream<Path> list = Files.list(root)) {
      inside = list.toList();
    }
    keepToOwner(inside);
  }

  private static void keepToOwner(List<Path> inside) throws IOException {
    for (Path path : inside) {
      if (Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS)) {
        Files.setPosixFilePermissions(path, PosixFilePermissions.fromString("rwx------"));
      } else if (Files.isRegularFile(path, LinkOption.NOFOLLOW_LINKS)) {
        Files.setPosixFilePermissions(path, PosixFilePermissions.fromString("rw-------"));
      }
    }
  }

  /** The stand-in stores of the demo estate. */
  public Path demo() {
    return root.resolve("demo");
  }

  /**
   * Takes the folder for this process: only its holder runs drills, so that a run that is found
   * under way when the lock is taken has lost its process.
   *
   * @return null when another process has it
   */
  public FileLock tryLock() throws IOException {
    keepToOwner();
    FileChannel channel = FileChannel.open(
        root.resolve("in-use"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
    try {
      FileLock lock = channel.tryLock();
      if (lock == null) {
        channel.close();
      }
      return lock;
    } catch (OverlappingFileLockException e) {
      channel.close();
      return null;
    }
  }
}
