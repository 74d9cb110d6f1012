package hardproof.proving.manifests;

import hardproof.core.wording.Wording;
import hardproof.proving.checksums.Sha256;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentSkipListSet;
import java.util.function.LongConsumer;
import java.util.stream.Stream;

/**
 * How a restored tree of files differs from its manifest.
 *
 * @param attributes of files whose content is right: {@code path: what}
 */
public record TreeComparison(
    int files,
    long bytes,
    List<String> missing,
    List<String> extra,
    List<String> changed,
    List<String> attributes) {

  public boolean equal() {
    return missing.isEmpty() && extra.isEmpty() && changed.isEmpty() && attributes.isEmpty();
  }

  /**
   * @param read told of every piece read; may throw to stop
   */
  public static TreeComparison of(Path tree, TreeManifest manifest, LongConsumer read)
      throws IOException {
    List<Path> found;
    try (Stream<Path> walk = Files.walk(tree)) {
      found = walk.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .sorted()
          .toList();
    }
    Set<String> missing = new TreeSet<>(manifest.files().keySet());
    List<String> extra = new ArrayList<>();
    List<Path> compare = new ArrayList<>();
    long bytes = 0;
    for (Path file : found) {
      String name = name(tree, file);
      bytes += Files.size(file);
      if (missing.remove(name)) {
        compare.add(file);
      } else {
        extra.add(name);
      }
    }
    Set<String> changed = new ConcurrentSkipListSet<>();
    Set<String> attributes = new ConcurrentSkipListSet<>();
    try {
      compare.parallelStream().forEach(file -> {
        String name = name(tree, file);
        TreeManifest.Item item = manifest.files().get(name);
        if (!item.sha256().equals(hash(file, read))) {
          changed.add(name);
        } else {
          String differs = attributes(file, item);
          if (differs != null) {
            attributes.add(name + ": " + differs);
          }
        }
      });
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
    return new TreeComparison(
        found.size(),
        bytes,
        List.copyOf(missing),
        extra,
        List.copyOf(changed),
        List.copyOf(attributes));
  }

  private static String name(Path tree, Path file) {
    return tree.relativize(file).toString().replace(tree.getFileSystem().getSeparator(), "/");
  }

  private static String hash(Path file, LongConsumer read) {
    try (var in = Files.newInputStream(file)) {
      return Sha256.of(in, read);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Set-uid and the like are never restored, so they are not compared. */
  private static String attributes(Path file, TreeManifest.Item item) {
    try {
      if (item.mode() != null
          && file.getFileSystem().supportedFileAttributeViews().contains("posix")) {
        int mode = mode(Files.getPosixFilePermissions(file, LinkOption.NOFOLLOW_LINKS));
        int wanted = item.mode() & 0777 | 0400;
        if (mode != wanted) {
          return String.format("mode %03o, not %03o", mode, wanted);
        }
      }
      if (item.modified() != null) {
        Instant found =
            Files.getLastModifiedTime(file, LinkOption.NOFOLLOW_LINKS).toInstant();
        // Archives keep whole seconds, or more.
        if (Duration.between(found, item.modified()).abs().compareTo(Duration.ofSeconds(1)) >= 0) {
          return "modified " + found + ", not " + item.modified();
        }
      }
      return null;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static int mode(Set<PosixFilePermission> permissions) {
    int mode = 0;
    for (PosixFilePermission permission : permissions) {
      mode |= 0400 >> permission.ordinal();
    }
    return mode;
  }

  /** {@code 214 files (3.10 MB) equal to the manifest}, or what differs with the first names. */
  public String sentence() {
    if (equal()) {
      return Wording.count(files, "file", "files") + " (" + Wording.bytes(bytes)
          + ") equal to the manifest";
    }
    List<String> parts = new ArrayList<>();
    part(parts, missing, "missing");
    part(parts, extra, "not in the manifest");
    part(parts, changed, "changed");
    part(parts, attributes, "with other attributes");
    return String.join("; ", parts);
  }

  private static void part(List<String> parts, List<String> names, String what) {
    if (!names.isEmpty()) {
      parts.add(Wording.count(names.size(), "file", "files") + " " + what + ": "
          + String.join(", ", names.subList(0, Math.min(3, names.size())))
          + (names.size() > 3 ? ", …" : ""));
    }
  }
}
