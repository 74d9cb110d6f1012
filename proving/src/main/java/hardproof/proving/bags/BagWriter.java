package hardproof.proving.bags;

import hardproof.proving.checksums.Sha256;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.LocalDateTime;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeMap;
import java.util.zip.Deflater;
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

  /** What becomes of the files of a bag, one after another. */
  public interface Taker {
    /**
     * @param path in the bag
     * @return where the file is written to; not closed
     */
    OutputStream begin(String path) throws IOException;

    /** The file is whole. */
    void end() throws IOException;
  }

  /** Gives every file, manifests too; the payload first: what is said of it is known only then. */
  public void write(Taker taker) throws IOException {
    Sums sums = new Sums();
    for (Map.Entry<String, Body> file : payload.entrySet()) {
      Summed summed = new Summed(taker.begin(file.getKey()));
      file.getValue().write(summed);
      summed.flush();
      taker.end();
      sums.add(file.getKey(), Sha256.hex(summed.digest.digest()), summed.bytes);
    }
    for (Map.Entry<String, byte[]> tag : tags(sums).entrySet()) {
      taker.begin(tag.getKey()).write(tag.getValue());
      taker.end();
    }
  }

  /** Writes the zip. */
  public void write(OutputStream out) throws IOException {
    try (ZipOutputStream zip = new ZipOutputStream(out, StandardCharsets.UTF_8)) {
      // Tables of many like rows come out hardly larger than at the usual level, in a third of the
      // time.
      zip.setLevel(Deflater.BEST_SPEED);
      write(new Taker() {
        @Override
        public OutputStream begin(String path) throws IOException {
          ZipEntry entry = new ZipEntry(top + "/" + path);
          entry.setTimeLocal(ZIP_TIME);
          zip.putNextEntry(entry);
          return zip;
        }

        @Override
        public void end() throws IOException {
          zip.closeEntry();
        }
      });
    }
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
