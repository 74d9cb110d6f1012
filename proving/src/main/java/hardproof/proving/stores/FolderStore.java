package hardproof.proving.stores;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;

/** A store that is a folder: a local disk, or an NFS or SMB mount. */
public final class FolderStore implements ArtifactStore {
  private final Path root;

  public FolderStore(Path root) {
    this.root = root;
  }

  @Override
  public String where() {
    return root.toString();
  }

  @Override
  public boolean reachable() {
    return Files.isDirectory(root);
  }

  @Override
  public long size(String place) throws ArtifactUnreadable {
    Path path = resolve(place);
    try {
      return Files.size(path);
    } catch (IOException e) {
      throw new ArtifactUnreadable(place, "can't be looked at: " + e.getMessage(), e);
    }
  }

  @Override
  public InputStream open(String place) throws ArtifactUnreadable {
    try {
      return new Reading(place, Files.newInputStream(resolve(place)));
    } catch (ArtifactUnreadable e) {
      throw e;
    } catch (IOException e) {
      throw new ArtifactUnreadable(place, "can't be opened: " + e.getMessage(), e);
    }
  }

  /** Real paths are compared, so that a link inside the store can't lead out of it either. */
  private Path resolve(String place) throws ArtifactUnreadable {
    try {
      Path path = root.resolve(place);
      if (!Files.isRegularFile(path)) {
        throw new ArtifactUnreadable(place, "is not on the store", null);
      }
      Path real = path.toRealPath();
      if (!real.startsWith(root.toRealPath())) {
        throw new ArtifactUnreadable(place, "lies outside its store", null);
      }
      return real;
    } catch (ArtifactUnreadable e) {
      throw e;
    } catch (IOException | InvalidPathException e) {
      throw new ArtifactUnreadable(place, "can't be found: " + e.getMessage(), e);
    }
  }

  /** Names the artifact when a read fails half-way. */
  private static final class Reading extends FilterInputStream {
    private final String place;

    Reading(String place, InputStream in) {
      super(in);
      this.place = place;
    }

    @Override
    public int read(byte[] buffer, int offset, int length) throws IOException {
      try {
        return super.read(buffer, offset, length);
      } catch (IOException e) {
        throw new ArtifactUnreadable(place, "can't be read: " + e.getMessage(), e);
      }
    }
  }
}
