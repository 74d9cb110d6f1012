package hardproof.proving.bags;

import hardproof.proving.checksums.ChecksumList;
import hardproof.proving.checksums.Sha256;
import java.io.ByteArrayInputStream;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Enumeration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;

/** Reads a zipped bag and holds it to RFC 8493: complete, and every checksum right. */
public final class BagReader {
  /** The declaration of RFC 8493 section 2.1.1; other versions of BagIt are not read here. */
  static final String DECLARATION = "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n";

  /** More than a year of ten thousand resources takes, three times over. */
  private static final long MAX_BYTES = 16L << 30;

  private static final int MAX_FILES = 200_000;

  /** Files up to this are held in memory, as long as all of them take no more than the second. */
  private static final int HELD = 1 << 20;

  private static final long HELD_TOGETHER = 256L << 20;

  private final Path zip;
  private final Map<String, Content> files = new TreeMap<>();
  private final List<String> faults = new ArrayList<>();
  private String top;
  private long held;

  private BagReader(Path zip) {
    this.zip = zip;
  }

  /**
   * A file of the bag.
   *
   * @param bytes null where it is too large to be held
   */
  private record Content(String sha256, long length, byte[] bytes) {}

  /**
   * Reads and checks a bag.
   *
   * @throws IOException when it is not a readable zip
   */
  public static BagReader open(Path zip) throws IOException {
    BagReader bag = new BagReader(zip);
    try (ZipFile file = bag.zipFile()) {
      bag.read(file);
      bag.faults.addAll(TwoReadings.faults(zip, file, bag.top(), bag.files.keySet()));
    }
    bag.check();
    return bag;
  }

  /** Everything that is wrong with it; empty for a valid bag. */
  public List<String> faults() {
    return List.copyOf(faults);
  }

  private ZipFile zipFile() throws IOException {
    return new ZipFile(zip.toFile(), StandardCharsets.UTF_8);
  }

  /**
   * A file by its path in the bag, whole in memory; null when it is not there.
   *
   * @throws UncheckedIOException when it is larger than any file that is read like that
   */
  public byte[] file(String path) {
    Content content = files.get(path);
    if (content == null) {
      return null;
    }
    if (content.length > HELD_TOGETHER) {
      throw new UncheckedIOException(
          new IOException(path + " is larger than any such file of a pack"));
    }
    try (InputStream in = open(path)) {
      return in.readAllBytes();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  public boolean has(String path) {
    return files.containsKey(path);
  }

  /**
   * A file of any size, to be read through.
   *
   * @param path one that the bag has
   */
  public InputStream open(String path) throws IOException {
    Content content = files.get(path);
    if (content.bytes != null) {
      return new ByteArrayInputStream(content.bytes);
    }
    // Opened for each reading: a reader of bags has nothing to close.
    ZipFile file = zipFile();
    try {
      return new FilterInputStream(file.getInputStream(file.getEntry(top + "/" + path))) {
        @Override
        public void close() throws IOException {
          file.close();
        }
      };
    } catch (IOException | RuntimeException e) {
      file.close();
      throw e;
    }
  }

  /** The paths of all files. */
  public List<String> paths() {
    return List.copyOf(files.keySet());
  }

  /** A file as text; null when it is not there. */
  public String text(String path) {
    byte[] bytes = file(path);
    return bytes == null ? null : new String(bytes, StandardCharsets.UTF_8);
  }

  /** Name of the one folder that all files are in; empty when there is none. */
  public String top() {
    return top == null ? "" : top;
  }

  private void read(ZipFile zip) throws IOException {
    long bytes = 0;
    Enumeration<? extends ZipEntry> entries = zip.entries();
    while (entries.hasMoreElements()) {
      ZipEntry entry = entries.nextElement();
      String name = entry.getName();
      if (name.startsWith("/") || name.contains("..") || name.contains("\\")) {
        faults.add("the zip has an entry that leaves it: " + name);
        continue;
      }
      if (entry.isDirectory()) {
        continue;
      }
      int slash = name.indexOf('/');
      String first = slash < 0 ? "" : name.substring(0, slash);
      top = top == null ? first : top;
      if (!top.equals(first) || slash < 0) {
        faults.add("the zip holds more than one folder: " + name);
        continue;
      }
      if (entry.getSize() > MAX_BYTES - bytes || files.size() >= MAX_FILES) {
        faults.add(name + " makes it larger than any pack");
        continue;
      }
      try (InputStream in = zip.getInputStream(entry)) {
        Content content = read(in, MAX_BYTES - bytes);
        bytes += content.length;
        if (in.read() >= 0) {
          faults.add(name + " makes it larger than any pack");
        } else if (files.put(name.substring(slash + 1), content) != null) {
          faults.add("the zip holds " + name + " twice");
        }
      } catch (IOException e) {
        faults.add(name + " can't be unzipped: " + e.getMessage());
      }
    }
  }

  private Content read(InputStream in, long most) throws IOException {
    MessageDigest digest = Sha256.digest();
    byte[] begin = in.readNBytes((int) Math.min(HELD, most));
    digest.update(begin);
    long length = begin.length;
    byte[] some = new byte[1 << 16];
    int got = 0;
    while (length < most && got >= 0) {
      got = in.read(some, 0, (int) Math.min(some.length, most - length));
      digest.update(some, 0, Math.max(0, got));
      length += Math.max(0, got);
    }
    boolean hold = length == begin.length && held + length <= HELD_TOGETHER;
    held += hold ? length : 0;
    return new Content(Sha256.hex(digest.digest()), length, hold ? begin : null);
  }

  private void check() {
    checkDeclaration();
    Map<String, String> payload = sums("manifest-sha256.txt");
    Map<String, String> tags = sums("tagmanifest-sha256.txt");
    compare(payload, "manifest-sha256.txt");
    compare(tags, "tagmanifest-sha256.txt");
    TreeSet<String> unlisted = new TreeSet<>(files.keySet());
    unlisted.removeAll(payload.keySet());
    unlisted.removeAll(tags.keySet());
    unlisted.remove("tagmanifest-sha256.txt");
    unlisted.forEach(path -> faults.add(path + " is in no manifest"));
    checkOxum(payload);
  }

  private void checkDeclaration() {
    String declaration = text("bagit.txt");
    if (declaration == null || !declaration.startsWith("BagIt-Version: ")) {
      faults.add("bagit.txt is missing or is no bag declaration");
    } else if (!declaration.replace("\r\n", "\n").equals(DECLARATION)) {
      faults.add("bagit.txt declares another version of BagIt than 1.0, or another encoding than"
          + " UTF-8");
    }
  }

  private Map<String, String> sums(String manifest) {
    String text = text(manifest);
    if (text == null) {
      faults.add(manifest + " is missing");
      return Map.of();
    }
    try {
      return ChecksumList.parse(text);
    } catch (IllegalArgumentException e) {
      faults.add(manifest + ": " + e.getMessage());
      return new LinkedHashMap<>();
    }
  }

  private void compare(Map<String, String> sums, String manifest) {
    sums.forEach((path, sum) -> {
      Content content = files.get(path);
      if (content == null) {
        faults.add(path + " is in " + manifest + " but not in the bag");
      } else if (!content.sha256.equals(sum)) {
        faults.add(path + " has been changed: its SHA-256 is not the one in " + manifest);
      }
    });
  }

  private void checkOxum(Map<String, String> payload) {
    String info = text("bag-info.txt");
    if (info == null) {
      return;
    }
    long octets = octets(payload);
    info.lines()
        .filter(l -> l.startsWith("Payload-Oxum: "))
        .map(l -> l.substring("Payload-Oxum: ".length()).trim())
        .filter(l -> !l.equals(octets + "." + payload.size()))
        .forEach(l -> faults.add("bag-info.txt counts " + l + " (octets.files), the payload has "
            + octets + "." + payload.size()));
  }

  private long octets(Map<String, String> payload) {
    return payload.keySet().stream()
        .map(files::get)
        .filter(java.util.Objects::nonNull)
        .mapToLong(Content::length)
        .sum();
  }
}
