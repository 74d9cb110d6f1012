package hardproof.proving.stores;

import java.io.IOException;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/**
 * The folders that stores may lie in, and those that nothing is ever read from. Whoever brings in facts
 * names the path of a store; only who runs this installation says what may be read on its machine.
 */
public final class StoreRoots {
  private final List<Path> allowed;
  private final List<Path> never;

  private StoreRoots(List<Path> allowed, List<Path> never) {
    this.allowed = allowed;
    this.never = never;
  }

  /**
   * @param allowed stores may lie in these, and in these only; where one lies in one of {@code never} it
   *     is an exception from that
   * @param never nothing in these is read
   */
  public static StoreRoots of(List<Path> allowed, List<Path> never) {
    return new StoreRoots(
        allowed.stream().map(StoreRoots::real).distinct().toList(),
        never.stream().map(StoreRoots::real).distinct().toList());
  }

  /** The one folder, for what stands by itself. */
  public static StoreRoots only(Path folder) {
    return of(List.of(folder), List.of());
  }

  public List<Path> allowed() {
    return allowed;
  }

  /** With links followed, as far as the folders are there. */
  private static Path real(Path path) {
    Path absolute = path.toAbsolutePath().normalize();
    List<Path> missing = new ArrayList<>();
    for (Path at = absolute; at != null; at = at.getParent()) {
      try {
        return below(missing, at);
      } catch (IOException e) {
        if (at.getFileName() != null) {
          missing.add(at.getFileName());
        }
      }
    }
    return absolute;
  }

  private static Path below(List<Path> missing, Path at) throws IOException {
    Path found = at.toRealPath();
    for (int i = missing.size() - 1; i >= 0; i--) {
      found = found.resolve(missing.get(i));
    }
    return found;
  }

  /** A store of a path as a fact names it; whether it may be read is told by its {@code refusal}. */
  public ArtifactStore open(String path) {
    try {
      return new FolderStore(Path.of(path), this);
    } catch (InvalidPathException e) {
      return new FolderStore(null, this);
    }
  }

  /**
   * Why nothing may be read from a path, whether anything is there or not: the sentence is the same.
   * Null when it may.
   */
  String refusal(Path path) {
    if (path == null) {
      return "its path is none that this system can have";
    }
    return mayRead(real(path))
        ? null
        : path + " lies outside of the folders that stores may lie in ("
            + (allowed.isEmpty()
                ? "none is allowed yet"
                : String.join(", ", allowed.stream().map(Path::toString).toList()))
            + "). Whoever runs Hard Proof allows one with --stores " + path
            + ", or by a line in the file store-roots of the data folder";
  }

  /**
   * Whether a path may be read: of the folders that say something of it, the deepest decides.
   *
   * @param real with links followed
   */
  boolean mayRead(Path real) {
    Path decides = Stream.concat(allowed.stream(), never.stream())
        .filter(real::startsWith)
        .max(Comparator.comparingInt(Path::getNameCount))
        .orElse(null);
    return decides != null && allowed.contains(decides);
  }

  /** Whether a folder holds one that nothing may be read from. */
  boolean holdsForbidden(Path real) {
    return never.stream().anyMatch(n -> n.startsWith(real));
  }
}
