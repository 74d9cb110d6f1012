package hardproof.proving.manifests;

import hardproof.proving.archives.LinkTarget;
import hardproof.proving.archives.SpecialEntry;
import hardproof.proving.archives.Untold;
import hardproof.proving.checksums.Checksum;
import hardproof.proving.checksums.DigestKind;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentSkipListSet;
import java.util.function.LongConsumer;
import java.util.stream.Stream;

/** Compares one tree with one manifest; files are read side by side. */
final class TreeComparing {
  private final Path tree;
  private final Map<String, SpecialEntry> specials;
  private final Untold untold;
  private final TreeManifest manifest;
  private final LongConsumer read;

  private final Set<String> missing = new TreeSet<>();
  private final List<String> extra = new ArrayList<>();
  private final Set<String> changed = new ConcurrentSkipListSet<>();
  private final Set<String> attributes = new ConcurrentSkipListSet<>();
  private final List<String> linksOut = new ArrayList<>();

  /** Path in the manifest to the file that it is compared with. */
  private final Map<String, Path> compare = new TreeMap<>();

  private final Map<String, Path> found = new TreeMap<>();
  private final Set<String> foundFolders = new HashSet<>();
  private long bytes;
  private int linksRight;
  private int linksNotVouched;

  TreeComparing(
      Path tree,
      Map<String, SpecialEntry> specials,
      Untold untold,
      TreeManifest manifest,
      LongConsumer read) {
    this.tree = tree;
    this.untold = untold;
    this.specials = specials;
    this.manifest = manifest;
    this.read = read;
  }

  TreeComparison compare() throws IOException {
    look();
    missing.addAll(manifest.files().keySet());
    sortOut();
    throughLinks();
    links();
    manifest.folders().stream().filter(f -> !foundFolders.contains(f)).forEach(missing::add);
    readAll();
    return comparison();
  }

  private void sortOut() {
    found.forEach((name, file) -> {
      if (missing.remove(name)) {
        compare.put(name, file);
      } else {
        extra.add(name);
      }
    });
  }

  private TreeComparison comparison() {
    return new TreeComparison(
        found.size(),
        bytes,
        List.copyOf(missing),
        extra,
        List.copyOf(changed),
        List.copyOf(attributes),
        linksRight,
        linksNotVouched,
        linksOut,
        weak(),
        elsewhere());
  }

  private void look() throws IOException {
    try (Stream<Path> walk = Files.walk(tree)) {
      for (Path path : (Iterable<Path>) walk::iterator) {
        String name =
            tree.relativize(path).toString().replace(tree.getFileSystem().getSeparator(), "/");
        if (Files.isRegularFile(path, LinkOption.NOFOLLOW_LINKS)) {
          found.put(name, path);
          bytes += Files.size(path);
        } else if (Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS)) {
          foundFolders.add(name);
        }
      }
    }
  }

  /** A list made by {@code sha256sum *} holds links by the content that they lead to. */
  private void throughLinks() {
    for (String path : List.copyOf(missing)) {
      if (!TreeComparison.link(specials.get(path))) {
        continue;
      }
      missing.remove(path);
      String file = new LinkTarget(specials).of(path);
      if (file != null && found.containsKey(file)) {
        compare.put(path, found.get(file));
      } else if (file == null) {
        linksOut.add(path);
      } else {
        missing.add(path);
      }
    }
  }

  private void links() {
    if (!manifest.whole()) {
      linksNotVouched = (int) specials.keySet().stream()
          .filter(p -> !manifest.files().containsKey(p))
          .count();
      return;
    }
    compareLinks();
    specials.keySet().stream()
        .filter(p -> !manifest.specials().containsKey(p) && !manifest.files().containsKey(p))
        .forEach(extra::add);
  }

  private void compareLinks() {
    manifest.specials().forEach((path, wanted) -> {
      SpecialEntry there = specials.get(path);
      if (there == null) {
        missing.add(path);
      } else if (there.kind() != wanted.kind()
          || wanted.target() != null && !wanted.target().equals(there.target())) {
        attributes.add(path + ": " + there.words() + ", not " + wanted.words());
      } else {
        linksRight++;
      }
    });
  }

  private void readAll() throws IOException {
    try {
      // As a list: a tree is split into halves that are none, and one processor waits for the
      // other.
      List.copyOf(compare.entrySet()).parallelStream().forEach(e -> compareOne(e));
    } catch (UncheckedIOException e) {
      throw e.getCause();
    }
  }

  private void compareOne(Map.Entry<String, Path> e) {
    TreeManifest.Item item = manifest.files().get(e.getKey());
    Checksum sum = item.checksum();
    if (!sum.hex().equals(hash(e.getValue(), sum.kind()))) {
      changed.add(e.getKey());
    } else {
      String differs = attributes(e.getKey(), e.getValue(), item);
      if (differs != null) {
        attributes.add(e.getKey() + ": " + differs);
      }
    }
  }

  private String hash(Path file, DigestKind kind) {
    try (var in = Files.newInputStream(file)) {
      return kind.of(in, read);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private List<DigestKind> weak() {
    return manifest.files().values().stream()
        .map(i -> i.checksum().kind())
        .filter(DigestKind::weak)
        .distinct()
        .sorted()
        .toList();
  }

  /** Looked at only where no path fits: whether the same contents stand under other paths. */
  private boolean elsewhere() {
    if (notElsewhere()) {
      return false;
    }
    List<String> wanted = new ArrayList<>();
    Set<DigestKind> kinds = new HashSet<>();
    manifest.files().values().forEach(i -> {
      wanted.add(i.checksum().hex());
      kinds.add(i.checksum().kind());
    });
    if (kinds.size() != 1) {
      return false;
    }
    return sameSums(wanted, kinds);
  }

  private boolean notElsewhere() {
    return !compare.isEmpty()
        || found.isEmpty()
        || found.size() != manifest.files().size();
  }

  private boolean sameSums(List<String> wanted, Set<DigestKind> kinds) {
    DigestKind kind = kinds.iterator().next();
    try {
      return wanted.stream()
          .sorted()
          .toList()
          .equals(List.copyOf(found.values()).parallelStream()
              .map(f -> hash(f, kind))
              .sorted()
              .toList());
    } catch (UncheckedIOException e) {
      return false;
    }
  }

  /** Set-uid and the like are never restored, so they are not compared. */
  private String attributes(String path, Path file, TreeManifest.Item item) {
    try {
      if (item.mode() != null
          && !untold.modes().contains(path)
          && file.getFileSystem().supportedFileAttributeViews().contains("posix")) {
        int mode = mode(Files.getPosixFilePermissions(file, LinkOption.NOFOLLOW_LINKS));
        int wanted = item.mode() & 0777 | 0400;
        if (mode != wanted) {
          return String.format("mode %03o, not %03o", mode, wanted);
        }
      }
      if (item.modified() != null && !untold.times()) {
        Instant found =
            Files.getLastModifiedTime(file, LinkOption.NOFOLLOW_LINKS).toInstant();
        // Archives keep whole seconds, or more, or none at all.
        if (!found.equals(Instant.EPOCH)
            && Duration.between(found, item.modified()).abs().compareTo(Duration.ofSeconds(1))
                >= 0) {
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
}
