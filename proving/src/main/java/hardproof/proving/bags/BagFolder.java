package hardproof.proving.bags;

import hardproof.core.wording.Wording;
import hardproof.proving.checksums.DigestKind;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.names.EntryName;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.LongConsumer;
import java.util.stream.Stream;

/**
 * A bag in a folder, held to RFC 8493: complete, and every checksum right. Files of any size are
 * streamed. Of several payload manifests all must list the same files, and all are checked.
 *
 * @param faults everything that is wrong with it; empty for a valid bag
 * @param warnings what is allowed but weak
 */
public record BagFolder(int files, long bytes, List<String> faults, List<String> warnings) {
  private static final long MANIFEST_MAX_BYTES = 256L << 20;

  /** The folder of the bag below {@code tree}: itself, or the one folder in it. */
  public static Path topOf(Path tree) throws IOException {
    if (Files.isRegularFile(tree.resolve("bagit.txt"), LinkOption.NOFOLLOW_LINKS)) {
      return tree;
    }
    try (Stream<Path> children = Files.list(tree)) {
      List<Path> all = children.toList();
      return all.size() == 1 && Files.isDirectory(all.get(0), LinkOption.NOFOLLOW_LINKS)
          ? all.get(0)
          : tree;
    }
  }

  /**
   * Reads and checks every file.
   *
   * @param read told of every piece read; may throw to stop
   */
  public static BagFolder check(Path bag, LongConsumer read) throws IOException {
    return new Checking(bag, read).result();
  }

  private static final class Checking {
    private final Path bag;
    private final LongConsumer read;
    private final List<String> faults = new ArrayList<>();
    private final List<String> warnings = new ArrayList<>();
    /** By path, then digest kind: what it should be. */
    private final Map<String, Map<DigestKind, String>> expected = new TreeMap<>();

    Checking(Path bag, LongConsumer read) {
      this.bag = bag;
      this.read = read;
    }

    BagFolder result() throws IOException {
      Set<String> present = present();
      if (!declared()) {
        faults.add("bagit.txt is missing or is no bag declaration");
      }
      refuseMissing(present);
      Map<DigestKind, Set<String>> payload = manifests(present, "manifest-", true);
      manifests(present, "tagmanifest-", false);
      requireKnownKind(present, payload);
      Set<String> data = data(present, payload);
      long bytes = compare(present);
      oxum(data);
      return new BagFolder(data.size(), bytes, List.copyOf(faults), List.copyOf(warnings));
    }

    private void refuseMissing(Set<String> present) throws IOException {
      if (present.contains("fetch.txt") && lacksWhatIsToBeFetched(present)) {
        faults.add(
            "fetch.txt names files that lie elsewhere, so the bag does not hold its payload");
      }
    }

    private void requireKnownKind(Set<String> present, Map<DigestKind, Set<String>> payload)
        throws NotReadHere {
      Optional<String> other = present.stream()
          .filter(p -> p.matches("manifest-[^/]+\\.txt"))
          .filter(p -> payload.isEmpty())
          .findFirst();
      if (other.isPresent()) {
        throw new NotReadHere(
            "the bag has no payload manifest of a kind that is read here (SHA-2, SHA-1, MD5),"
                + " only " + EntryName.shown(other.get()));
      }
      if (payload.isEmpty()) {
        faults.add(
            "it has no payload manifest of a kind that is known (md5, sha1, sha256, sha512)");
      }
    }

    private Set<String> data(Set<String> present, Map<DigestKind, Set<String>> payload) {
      Set<String> data = new TreeSet<>(present);
      data.removeIf(p -> !p.startsWith(BagManifest.PAYLOAD));
      payload.forEach((kind, listed) -> {
        Set<String> unlisted = new TreeSet<>(data);
        unlisted.removeAll(listed);
        unlisted.forEach(p -> faults.add(p + " is not in the " + kind.algorithm() + " manifest"));
      });
      return data;
    }

    /** Once all that is to be fetched was (RFC 8493, 2.2.3), the list may stay. */
    private boolean lacksWhatIsToBeFetched(Set<String> present) throws IOException {
      return text(bag.resolve("fetch.txt"))
          .lines()
          .map(l -> l.strip().split("\\s+", 3))
          .anyMatch(parts -> parts.length == 3 && !present.contains(parts[2]));
    }

    private Set<String> present() throws IOException {
      try (Stream<Path> walk = Files.walk(bag)) {
        Set<String> present = new TreeSet<>();
        walk.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
            .forEach(p -> present.add(
                bag.relativize(p).toString().replace(p.getFileSystem().getSeparator(), "/")));
        return present;
      }
    }

    private boolean declared() throws IOException {
      Path declaration = bag.resolve("bagit.txt");
      return Files.isRegularFile(declaration, LinkOption.NOFOLLOW_LINKS)
          && text(declaration).startsWith("BagIt-Version: ");
    }

    private static String text(Path file) throws IOException {
      if (Files.size(file) > MANIFEST_MAX_BYTES) {
        throw new IOException(file.getFileName() + " is too large to be a tag file");
      }
      return new String(Files.readAllBytes(file), StandardCharsets.UTF_8);
    }

    private Map<DigestKind, Set<String>> manifests(
        Set<String> present, String prefix, boolean payload) throws IOException {
      Map<DigestKind, Set<String>> listed = new TreeMap<>();
      for (DigestKind kind : DigestKind.values()) {
        String name = prefix + kind.name().toLowerCase(java.util.Locale.ROOT) + ".txt";
        if (present.contains(name)) {
          listed.put(kind, lines(name, kind, payload));
          if (kind.weak()) {
            warnings.add(
                name + " uses " + kind.algorithm() + ", which shows accidents but can be forged");
          }
        }
      }
      return listed;
    }

    private Set<String> lines(String manifest, DigestKind kind, boolean payload)
        throws IOException {
      BagManifest parsed = BagManifest.parse(manifest, text(bag.resolve(manifest)), kind, payload);
      faults.addAll(parsed.faults());
      parsed
          .sums()
          .forEach((path, sum) ->
              expected.computeIfAbsent(path, p -> new TreeMap<>()).put(kind, sum));
      return parsed.sums().keySet();
    }

    private long compare(Set<String> present) throws IOException {
      Map<String, Long> sizes = new ConcurrentHashMap<>();
      List<String> wrong = java.util.Collections.synchronizedList(new ArrayList<>());
      compareAll(present, sizes, wrong);
      wrong.stream().sorted().forEach(faults::add);
      return sizes.entrySet().stream()
          .filter(e -> e.getKey().startsWith(BagManifest.PAYLOAD))
          .mapToLong(Map.Entry::getValue)
          .sum();
    }

    private void compareAll(Set<String> present, Map<String, Long> sizes, List<String> wrong)
        throws IOException {
      try {
        List.copyOf(expected.entrySet()).parallelStream().forEach(e -> {
          if (!present.contains(e.getKey())) {
            wrong.add(e.getKey() + " is in a manifest but not in the bag");
            return;
          }
          sizes.put(e.getKey(), compareOne(e.getKey(), e.getValue(), wrong));
        });
      } catch (UncheckedIOException e) {
        throw e.getCause();
      }
    }

    private long compareOne(String path, Map<DigestKind, String> sums, List<String> wrong) {
      Map<DigestKind, MessageDigest> digests = new TreeMap<>();
      sums.keySet().forEach(k -> digests.put(k, k.digest()));
      long size = digest(path, digests);
      digests.forEach((kind, digest) -> {
        if (!HexFormat.of().formatHex(digest.digest()).equals(sums.get(kind))) {
          wrong.add(
              path + " has been changed: its " + kind.algorithm() + " is not as in the manifest");
        }
      });
      return size;
    }

    private long digest(String path, Map<DigestKind, MessageDigest> digests) {
      long size = 0;
      try (InputStream in = Files.newInputStream(bag.resolve(path))) {
        byte[] buffer = new byte[1 << 18];
        int n;
        while ((n = in.read(buffer)) >= 0) {
          size += n;
          for (MessageDigest digest : digests.values()) {
            digest.update(buffer, 0, n);
          }
          read.accept(n);
        }
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
      return size;
    }

    private void oxum(Set<String> data) throws IOException {
      Path info = bag.resolve("bag-info.txt");
      if (!Files.isRegularFile(info, LinkOption.NOFOLLOW_LINKS)) {
        return;
      }
      String counted = counted(data);
      text(info)
          .lines()
          .filter(l -> l.startsWith("Payload-Oxum:"))
          .map(l -> l.substring("Payload-Oxum:".length()).strip())
          .filter(l -> !l.equals(counted))
          .forEach(l -> faults.add(
              "bag-info.txt counts " + l + " (octets.files), the payload has " + counted));
    }

    private String counted(Set<String> data) throws IOException {
      long octets = 0;
      for (String path : data) {
        octets += Files.size(bag.resolve(path));
      }
      return octets + "." + data.size();
    }
  }

  /** {@code a valid bag of 214 files (3.10 MB)}, or what is wrong with the first faults. */
  public String sentence() {
    String weak = warnings.isEmpty() ? "" : "; " + String.join("; ", warnings);
    if (faults.isEmpty()) {
      return "a valid bag of " + Wording.count(files, "file", "files") + " (" + Wording.bytes(bytes)
          + ")" + weak;
    }
    return Wording.count(faults.size(), "fault", "faults") + " of the bag: "
        + String.join("; ", faults.subList(0, Math.min(3, faults.size())))
        + (faults.size() > 3 ? "; …" : "") + weak;
  }
}
