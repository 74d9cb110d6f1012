package hardproof.server.installation;

import hardproof.proving.stores.StoreRoots;
import hardproof.server.storage.DataFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * Where stores may lie: what was given at start, and the lines of the file {@code store-roots} of the
 * data folder, which nobody but the owner of the folder may be able to write.
 */
public final class AllowedStores {
  private AllowedStores() {}

  /** What was allowed can't be accepted; the message says why and what to do. */
  public static final class NotAllowed extends IOException {
    private static final long serialVersionUID = 1L;

    NotAllowed(String message) {
      super(message);
    }
  }

  static StoreRoots of(DataFolder folder, List<Path> given) throws IOException {
    List<Path> allowed = new ArrayList<>(given);
    allowed.addAll(written(folder.storeRoots()));
    for (Path path : allowed) {
      Path absolute = path.toAbsolutePath().normalize();
      if (absolute.startsWith(folder.root()) && !absolute.equals(folder.demo())) {
        throw new NotAllowed("Stores can't lie in the data folder: " + path + " is in "
            + folder.root() + ". Give a folder elsewhere with --stores.");
      }
    }
    return StoreRoots.of(allowed, List.of(folder.root()));
  }

  private static List<Path> written(Path file) throws IOException {
    if (!Files.exists(file, LinkOption.NOFOLLOW_LINKS)) {
      return List.of();
    }
    ownersOnly(file);
    List<Path> paths = new ArrayList<>();
    int number = 0;
    for (String whole : Files.readAllLines(file)) {
      number++;
      String line = whole.strip();
      if (line.isEmpty() || line.startsWith("#")) {
        continue;
      }
      try {
        Path path = Path.of(line);
        if (path.isAbsolute()) {
          paths.add(path);
          continue;
        }
      } catch (InvalidPathException e) {
        // Said below.
      }
      throw new NotAllowed("Line " + number + " of " + file
          + " is no absolute path of a folder. Correct it: one folder a line.");
    }
    return paths;
  }

  /** A setting that others could write would let them read whatever they like. */
  private static void ownersOnly(Path file) throws IOException {
    if (!file.getFileSystem().supportedFileAttributeViews().contains("posix")) {
      return;
    }
    boolean regular = Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS);
    Set<PosixFilePermission> who = Files.getPosixFilePermissions(file);
    boolean others = who.contains(PosixFilePermission.GROUP_WRITE)
        || who.contains(PosixFilePermission.OTHERS_WRITE);
    boolean owned = Files.getOwner(file).equals(Files.getOwner(file.getParent()));
    if (!regular || others || !owned) {
      throw new NotAllowed(file
          + " says where stores may lie, and others than the owner of its folder could change it."
          + " Make it theirs alone (chmod 600), then start again.");
    }
  }
}
