package hardproof.proving.manifests;

import hardproof.core.wording.Wording;
import hardproof.proving.checksums.Sha256;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentSkipListSet;
import java.util.function.LongConsumer;
import java.util.stream.Stream;

/**
 * A restored tree against its manifest. Only regular files are compared: the manifest lists no
 * others.
 */
public record TreeComparison(
    int files, long bytes, List<String> missing, List<String> extra, List<String> changed) {

  public boolean equal() {
    return missing.isEmpty() && extra.isEmpty() && changed.isEmpty();
  }

  /**
   * @param manifest path, with / between parts, to SHA-256
   * @param read told of every piece read; may throw to stop
   */
  public static TreeComparison of(Path tree, Map<String, String> manifest, LongConsumer read)
      throws IOException {
    List<Path> found;
    try (Stream<Path> walk = Files.walk(tree)) {
      found = walk.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .sorted()
          .toList();
    }
    Set<String> missing = new TreeSet<>(manifest.keySet());
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
    try {
      compare.parallelStream().forEach(file -> {
        String name = name(tree, file);
        if (!manifest.get(name).equals(hash(file, read))) {
          changed.add(name);
        }
      });
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
    return new TreeComparison(
        found.size(), bytes, List.copyOf(missing), extra, List.copyOf(changed));
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
