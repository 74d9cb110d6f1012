package hardproof.proving.stores;

import java.io.File;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.function.BiConsumer;
import java.util.function.Consumer;

/** A store that is a folder: a local disk, or an NFS or SMB mount. */
public final class FolderStore implements ArtifactStore {
  private final Path root;
  private final StoreRoots roots;

  /** A folder that is allowed by itself. */
  public FolderStore(Path root) {
    this(root, StoreRoots.only(root));
  }

  /**
   * @param root null when its path is none
   */
  FolderStore(Path root, StoreRoots roots) {
    this.root = root;
    this.roots = roots;
  }

  @Override
  public String refusal() {
    return roots.refusal(root);
  }

  @Override
  public String where() {
    return String.valueOf(root);
  }

  @Override
  public String away() {
    return refusal() == null && Files.isDirectory(root)
        ? null
        : where() + " is not a folder here. Mount it, or correct the path of the store";
  }

  @Override
  public void list(Consumer<Listed> each) throws ArtifactUnreadable {
    if (away() != null) {
      throw ArtifactUnreadable.unjudged("its list", "can't be read: " + away(), null);
    }
    int above = root.toString().length() + 1;
    try {
      walk(root, (file, attributes) -> {
        String place = file.toString().substring(above).replace(File.separatorChar, '/');
        each.accept(
            Listed.file(place, attributes.size(), attributes.lastModifiedTime().toInstant()));
      });
    } catch (IOException e) {
      throw ArtifactUnreadable.unjudged("its list", "can't be read: " + e.getMessage(), e);
    }
  }

  @Override
  public long size(String place) throws ArtifactUnreadable {
    Path path = resolve(place);
    try {
      if (!Files.isDirectory(path)) {
        return Files.size(path);
      }
      long[] bytes = new long[1];
      walk(path, (file, attributes) -> bytes[0] += attributes.size());
      return bytes[0];
    } catch (IOException e) {
      throw new ArtifactUnreadable(place, "can't be looked at: " + e.getMessage(), e);
    }
  }

  /** Every regular file of a folder; attributes come with the walk, so that a file costs no look of its own. */
  private static void walk(Path folder, BiConsumer<Path, BasicFileAttributes> each)
      throws IOException {
    Files.walkFileTree(folder, new SimpleFileVisitor<>() {
      @Override
      public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
        if (attributes.isRegularFile()) {
          each.accept(file, attributes);
        }
        return FileVisitResult.CONTINUE;
      }
    });
  }

  @Override
  public InputStream open(String place) throws ArtifactUnreadable {
    Path path = resolve(place);
    if (!Files.isRegularFile(path)) {
      throw new ArtifactUnreadable(place, "is a folder, and a file was expected", null);
    }
    try {
      return new Reading(place, Files.newInputStream(path));
    } catch (IOException e) {
      throw new ArtifactUnreadable(place, "can't be opened: " + e.getMessage(), e);
    }
  }

  @Override
  public Folder folder(String place) throws ArtifactUnreadable {
    Path folder = resolve(place);
    if (!Files.isDirectory(folder)) {
      throw new ArtifactUnreadable(place, "is a file, and a folder was expected", null);
    }
    try {
      return new ListedFolder(place, folder);
    } catch (IOException e) {
      throw new ArtifactUnreadable(place, "can't be listed: " + e.getMessage(), e);
    }
  }

  /** Real paths are compared, so that a link inside the store can't lead out of it either. */
  private Path resolve(String place) throws ArtifactUnreadable {
    if (refusal() != null) {
      throw ArtifactUnreadable.unjudged(place, "is not read: " + refusal(), null);
    }
    try {
      Path path = root.resolve(place);
      if (!path.normalize().startsWith(root.normalize())) {
        throw ArtifactUnreadable.unjudged(place, "lies outside its store, and is not read", null);
      }
      if (!Files.isRegularFile(path) && !Files.isDirectory(path)) {
        throw new ArtifactUnreadable(place, "is not on the store", null);
      }
      Path real = path.toRealPath();
      Path realRoot = root.toRealPath();
      if (!real.startsWith(realRoot)
          || real.equals(realRoot)
          || !roots.mayRead(real)
          || roots.holdsForbidden(real)) {
        throw ArtifactUnreadable.unjudged(place, "lies outside its store, and is not read", null);
      }
      return real;
    } catch (ArtifactUnreadable e) {
      throw e;
    } catch (IOException | InvalidPathException e) {
      throw new ArtifactUnreadable(place, "can't be found: " + e.getMessage(), e);
    }
  }
}
