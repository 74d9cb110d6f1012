package hardproof.proving.bags;

import hardproof.proving.checksums.Sha256;
import java.io.ByteArrayOutputStream;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.LocalDateTime;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeMap;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/**
 * Writes a bag (RFC 8493) as a zip with one top folder. The same contents always give the same
 * bytes: names are sorted and times fixed.
 */
public final class BagWriter {
  /** Zip entries carry no zone, so the one date that means nothing is used for all. */
  private static final LocalDateTime ZIP_TIME = LocalDateTime.of(1980, 1, 1, 0, 0);

  /** What a file holds, written when it is packed: tables of a large estate are never whole in memory. */
  @FunctionalInterface
  public interface Body {
    /** Writes the same bytes each time; does not close {@code out}. */
    void write(OutputStream out) throws IOException;

    /** A body that is there already. */
    static Body of(byte[] content) {
      return out -> out.write(content);
    }

    /** All of it. */
    default byte[] bytes() throws IOException {
      ByteArrayOutputStream bytes = new ByteArrayOutputStream();
      write(bytes);
      return bytes.toByteArray();
    }
  }

  private final String top;
  private final Map<String, Body> payload = new TreeMap<>();
  private final Map<String, byte[]> tags = new TreeMap<>();
  private final Map<String, String> info = new LinkedHashMap<>();

  /**
   * @param top name of the folder everything is in
   */
  public BagWriter(String top) {
    this.top = top;
  }

  /**
   * Adds a file to the payload.
   *
   * @param path below {@code data/}
   * @throws IllegalArgumentException for names that tools read in different ways: with percent signs
   *     or line ends, absolute, or leaving the bag
   */
  public void payload(String path, Body content) {
    if (path.matches("(?s).*[%\\r\\n\\\\].*") || path.startsWith("/") || path.contains("..")) {
      throw new IllegalArgumentException("'" + path + "' can't be the name of a file in a bag");
    }
    payload.put("data/" + path, content);
  }

  public void payload(String path, byte[] content) {
    payload(path, Body.of(content));
  }

  public void payload(String path, String content) {
    payload(path, content.getBytes(StandardCharsets.UTF_8));
  }

  /** Adds a tag file beside the payload. */
  public void tag(String path, String content) {
    tag(path, content.getBytes(StandardCharsets.UTF_8));
  }

  public void tag(String path, byte[] content) {
    tags.put(path, content);
  }

  /** Lines of bag-info.txt; Payload-Oxum is added. */
  public void info(Map<String, String> lines) {
    info.clear();
    info.putAll(lines);
  }

  /** Name of the one folder that all files are in. */
  public String top() {
    return top;
  }

  /** Every file by its path in the bag, manifests too. All of them are held in memory. */
  public Map<String, byte[]> files() throws IOException {
    Map<String, byte[]> all = new TreeMap<>();
    Sums sums = new Sums();
    for (Map.Entry<String, Body> file : payload.entrySet()) {
      byte[] content = file.getValue().bytes();
      sums.add(file.getKey(), Sha256.of(content), content.length);
      all.put(file.getKey(), content);
    }
    all.putAll(tags(sums));
    return all;
  }

  /** Writes the zip, the payload first: what is said of it is known only then. */
  public void write(OutputStream out) throws IOException {
    try (ZipOutputStream zip = new ZipOutputStream(out, StandardCharsets.UTF_8)) {
      Sums sums = new Sums();
      for (Map.Entry<String, Body> file : payload.entrySet()) {
        begin(zip, file.getKey());
        Summed summed = new Summed(zip);
        file.getValue().write(summed);
        summed.flush();
        zip.closeEntry();
        sums.add(file.getKey(), Sha256.hex(summed.digest.digest()), summed.bytes);
      }
      for (Map.Entry<String, byte[]> tag : tags(sums).entrySet()) {
        begin(zip, tag.getKey());
        zip.write(tag.getValue());
        zip.closeEntry();
      }
    }
  }

  private void begin(ZipOutputStream zip, String path) throws IOException {
    ZipEntry entry = new ZipEntry(top + "/" + path);
    entry.setTimeLocal(ZIP_TIME);
    zip.putNextEntry(entry);
  }

  /** The tag files, with those that sum up what there is. */
  private Map<String, byte[]> tags(Sums sums) {
    Map<String, String> lines = new LinkedHashMap<>(info);
    lines.put("Payload-Oxum", sums.octets + "." + payload.size());
    StringBuilder bagInfo = new StringBuilder();
    lines.forEach((k, v) ->
        bagInfo.append(k).append(": ").append(v.replaceAll("\\s+", " ")).append('\n'));
    Map<String, byte[]> all = new TreeMap<>(tags);
    put(all, "bagit.txt", BagReader.DECLARATION);
    put(all, "bag-info.txt", bagInfo.toString());
    put(all, "manifest-sha256.txt", sums.manifest.toString());
    Sums ofTags = new Sums();
    all.forEach((path, content) -> ofTags.add(path, Sha256.of(content), content.length));
    put(all, "tagmanifest-sha256.txt", ofTags.manifest.toString());
    return all;
  }

  private static void put(Map<String, byte[]> all, String path, String content) {
    all.put(path, content.getBytes(StandardCharsets.UTF_8));
  }

  /** What a manifest says of files, in the order in which they are added. */
  private static final class Sums {
    private final StringBuilder manifest = new StringBuilder();
    private long octets;

    void add(String path, String sha256, long bytes) {
      manifest.append(sha256).append("  ").append(path).append('\n');
      octets += bytes;
    }
  }

  /** Sums up and counts what goes through. */
  private static final class Summed extends FilterOutputStream {
    private final MessageDigest digest = Sha256.digest();
    private long bytes;

    Summed(OutputStream out) {
      super(out);
    }

    @Override
    public void write(int b) throws IOException {
      write(new byte[] {(byte) b}, 0, 1);
    }

    @Override
    public void write(byte[] b, int off, int len) throws IOException {
      out.write(b, off, len);
      digest.update(b, off, len);
      bytes += len;
    }

    @Override
    public void close() throws IOException {
      flush();
    }
  }
}
