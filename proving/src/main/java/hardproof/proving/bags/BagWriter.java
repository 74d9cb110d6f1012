package hardproof.proving.bags;

import hardproof.proving.checksums.Sha256;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
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

  private final String top;
  private final Map<String, byte[]> payload = new TreeMap<>();
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
  public void payload(String path, byte[] content) {
    if (path.matches("(?s).*[%\\r\\n\\\\].*") || path.startsWith("/") || path.contains("..")) {
      throw new IllegalArgumentException("'" + path + "' can't be the name of a file in a bag");
    }
    payload.put("data/" + path, content);
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

  /** Every file by its path in the bag, manifests too. */
  public Map<String, byte[]> files() {
    long octets = payload.values().stream().mapToLong(b -> b.length).sum();
    Map<String, String> lines = new LinkedHashMap<>(info);
    lines.put("Payload-Oxum", octets + "." + payload.size());
    StringBuilder bagInfo = new StringBuilder();
    lines.forEach((k, v) ->
        bagInfo.append(k).append(": ").append(v.replaceAll("\\s+", " ")).append('\n'));
    tag("bagit.txt", BagReader.DECLARATION);
    tag("bag-info.txt", bagInfo.toString());
    tag("manifest-sha256.txt", manifest(payload));
    Map<String, byte[]> all = new TreeMap<>(payload);
    all.putAll(tags);
    all.put("tagmanifest-sha256.txt", manifest(tags).getBytes(StandardCharsets.UTF_8));
    return all;
  }

  /** Writes the zip. */
  public void write(OutputStream out) throws IOException {
    try (ZipOutputStream zip = new ZipOutputStream(out, StandardCharsets.UTF_8)) {
      for (Map.Entry<String, byte[]> file : files().entrySet()) {
        ZipEntry entry = new ZipEntry(top + "/" + file.getKey());
        entry.setTimeLocal(ZIP_TIME);
        zip.putNextEntry(entry);
        zip.write(file.getValue());
        zip.closeEntry();
      }
    }
  }

  private static String manifest(Map<String, byte[]> files) {
    StringBuilder lines = new StringBuilder();
    files.forEach((path, content) ->
        lines.append(Sha256.of(content)).append("  ").append(path).append('\n'));
    return lines.toString();
  }
}
