package hardproof.standins.stores;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.NavigableMap;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentSkipListMap;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.ToIntFunction;

/** What lies in a bucket: of each key its versions, the newest first. Keys are in the order of their bytes. */
public final class ObjectShelf {
  private final ConcurrentSkipListMap<String, List<Version>> kept = new ConcurrentSkipListMap<>();
  private final Path folder;
  private final BiFunction<String, Version, Lock> retention;

  private ObjectShelf(Path folder, BiFunction<String, Version, Lock> retention) {
    this.folder = folder;
    this.retention = retention;
  }

  /** One in memory, with nothing on it. */
  public static ObjectShelf empty() {
    return new ObjectShelf(null, (key, v) -> null);
  }

  /**
   * The files of a folder, as they are when somebody asks.
   *
   * @param days for how many days things are kept from change once they are written, by their keys
   */
  public static ObjectShelf of(Path folder, ToIntFunction<String> days) {
    return new ObjectShelf(
        folder,
        (key, v) -> new Lock(
            "COMPLIANCE", v.modified().plus(Duration.ofDays(days.applyAsInt(key))), false));
  }

  /** Bytes of a version, from their begin. */
  public interface Bytes {
    InputStream open() throws IOException;
  }

  /**
   * How a version is kept from change.
   *
   * @param mode GOVERNANCE or COMPLIANCE; null where only a hold keeps it
   */
  public record Lock(String mode, Instant until, boolean held) {}

  /**
   * A version of an object, or the mark that it was deleted.
   *
   * @param sha256 base64, as it was worked out when it was written; null where it was not
   */
  public record Version(
      String id,
      long size,
      Instant modified,
      String tag,
      String storageClass,
      Lock lock,
      String sha256,
      boolean deleted,
      Bytes bytes) {
    public Version locked(Lock other) {
      return new Version(id, size, modified, tag, storageClass, other, sha256, deleted, bytes);
    }

    public Version in(String other) {
      return new Version(id, size, modified, tag, other, lock, sha256, deleted, bytes);
    }

    public Version summed(String base64) {
      return new Version(id, size, modified, tag, storageClass, lock, base64, deleted, bytes);
    }
  }

  /** Lays a version on top of those that are there. */
  public void put(String key, byte[] content, Instant modified) {
    put(key, content.length, modified, () -> new ByteArrayInputStream(content));
  }

  /** The same for what is too large to hold. */
  public void put(String key, long size, Instant modified, Bytes bytes) {
    add(key, version(key, size, modified, bytes));
  }

  private void add(String key, Version version) {
    kept.compute(key, (k, before) -> {
      List<Version> all = new ArrayList<>(List.of(version));
      all.addAll(before == null ? List.of() : before);
      return all;
    });
  }

  private static Version version(String key, long size, Instant modified, Bytes bytes) {
    String tag = Long.toHexString(key.hashCode() * 31L + size + modified.toEpochMilli()) + "-1";
    return new Version(
        "v" + modified.toEpochMilli(), size, modified, tag, "STANDARD", null, null, false, bytes);
  }

  /** Marks a key as deleted; its versions stay. */
  public void delete(String key, Instant when) {
    add(key, new Version("d" + when.toEpochMilli(), 0, when, "", "", null, null, true, null));
  }

  /** Changes the newest version of a key. */
  public void change(String key, Function<Version, Version> change) {
    kept.computeIfPresent(key, (k, all) -> {
      List<Version> changed = new ArrayList<>(all);
      changed.set(0, change.apply(changed.get(0)));
      return changed;
    });
  }

  /** Everything that is there now. */
  NavigableMap<String, List<Version>> now() {
    if (folder == null) {
      return kept;
    }
    NavigableMap<String, List<Version>> all = new TreeMap<>();
    try {
      Files.walkFileTree(folder, new SimpleFileVisitor<>() {
        @Override
        public FileVisitResult visitFile(Path file, BasicFileAttributes a) {
          if (a.isRegularFile()) {
            String key = folder.relativize(file).toString().replace('\\', '/');
            all.put(key, List.of(ofFile(key, file, a)));
          }
          return FileVisitResult.CONTINUE;
        }
      });
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return all;
  }

  /** Null when it is not there, or never was. */
  List<Version> of(String key) {
    if (folder == null) {
      return kept.get(key);
    }
    try {
      Path file = folder.resolve(key).normalize();
      boolean there = file.startsWith(folder) && Files.isRegularFile(file);
      return there
          ? List.of(ofFile(key, file, Files.readAttributes(file, BasicFileAttributes.class)))
          : null;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private Version ofFile(String key, Path file, BasicFileAttributes a) {
    Version version =
        version(key, a.size(), a.lastModifiedTime().toInstant(), () -> Files.newInputStream(file));
    return version.locked(retention.apply(key, version));
  }
}
