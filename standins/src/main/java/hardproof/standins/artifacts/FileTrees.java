package hardproof.standins.artifacts;

import hardproof.proving.checksums.ChecksumList;
import hardproof.proving.checksums.Sha256;
import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveOutputStream;
import org.apache.commons.compress.compressors.zstandard.ZstdCompressorOutputStream;

/**
 * A tree of files that changes from day to day, and its archives. The same seed and days always give
 * the same bytes.
 */
public final class FileTrees {
  private static final String[] WORDS = {
    "berth", "tide", "ramp", "crew", "cargo", "pilot", "mooring", "bunker", "cabin", "quay", "lane",
    "axle", "hatch", "deck", "swell", "fender", "bollard", "ledger", "sailing", "harbour"
  };

  private final long seed;
  private final int files;
  private final String format;
  private final List<Map<String, byte[]>> days = new ArrayList<>();

  /**
   * @param files how many there are at the beginning
   * @param format of the archives: tar, tar.gz, tar.zst or zip
   */
  public FileTrees(long seed, int files, String format) {
    this.format = format;
    this.seed = seed;
    this.files = files;
  }

  /** The whole tree as it stood on a day; days count up from 0. */
  public Map<String, byte[]> tree(int day) {
    if (days.isEmpty()) {
      Map<String, byte[]> first = new TreeMap<>();
      for (int i = 0; i < files; i++) {
        first.put(name(i), content(i, 0));
      }
      days.add(first);
    }
    while (days.size() <= day) {
      Map<String, byte[]> tree = new TreeMap<>(days.get(days.size() - 1));
      changes(days.size()).forEach((name, content) -> {
        if (content == null) {
          tree.remove(name);
        } else {
          tree.put(name, content);
        }
      });
      days.add(tree);
    }
    return days.get(day);
  }

  /** What a day changed: new content, or null for a file that was removed. */
  private Map<String, byte[]> changes(int day) {
    Random random = new Random(seed * 31 + day);
    Map<String, byte[]> changes = new LinkedHashMap<>();
    for (int i = 0; i < 3; i++) {
      int file = random.nextInt(files);
      changes.put(name(file), content(file, day));
    }
    changes.put(name(files + day), content(files + day, day));
    if (day > 2 && day % 3 == 0) {
      changes.put(name(files + day - 2), null);
    }
    return changes;
  }

  private static String name(int i) {
    return String.format(
        Locale.ROOT, "%s/%s-%03d.txt", WORDS[i % 7], WORDS[(i * 5 + 3) % WORDS.length], i);
  }

  private byte[] content(int file, int day) {
    Random random = new Random(seed * 7919 + file * 131L + day);
    StringBuilder text = new StringBuilder();
    int lines = 40 + random.nextInt(160);
    for (int i = 0; i < lines; i++) {
      for (int w = 0; w < 6; w++) {
        text.append(WORDS[random.nextInt(WORDS.length)]).append(' ');
      }
      text.append(random.nextInt(1_000_000)).append('\n');
    }
    return text.toString().getBytes(StandardCharsets.UTF_8);
  }

  /** A full: everything as of a day. */
  public Artifact full(int day, Instant time) throws IOException {
    Map<String, byte[]> tree = tree(day);
    return new Artifact(format, archive(tree, List.of(), time), manifest(tree));
  }

  /** An incremental: what changed since the day before, removals as whiteouts. */
  public Artifact incremental(int day, Instant time) throws IOException {
    Map<String, byte[]> before = tree(day - 1);
    Map<String, byte[]> now = tree(day);
    Map<String, byte[]> changed = new TreeMap<>();
    now.forEach((name, content) -> {
      if (!java.util.Arrays.equals(before.get(name), content)) {
        changed.put(name, content);
      }
    });
    List<String> removed = new ArrayList<>(new TreeSet<>(before.keySet()));
    removed.removeAll(now.keySet());
    return new Artifact(format, archive(changed, removed, time), manifest(now));
  }

  private static byte[] manifest(Map<String, byte[]> tree) {
    Map<String, String> sums = new LinkedHashMap<>();
    tree.forEach((name, content) -> sums.put(name, Sha256.of(content)));
    return ChecksumList.format(sums).getBytes(StandardCharsets.UTF_8);
  }

  private byte[] archive(Map<String, byte[]> files, List<String> removed, Instant time)
      throws IOException {
    Map<String, byte[]> all = new LinkedHashMap<>(files);
    for (String name : removed) {
      int slash = name.lastIndexOf('/') + 1;
      all.put(name.substring(0, slash) + ".wh." + name.substring(slash), new byte[0]);
    }
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    if (format.equals("zip")) {
      zip(all, time, bytes);
      return bytes.toByteArray();
    }
    try (TarArchiveOutputStream tar =
        new TarArchiveOutputStream(new BufferedOutputStream(compressed(bytes), 1 << 16), "UTF-8")) {
      for (Map.Entry<String, byte[]> file : all.entrySet()) {
        put(tar, file.getKey(), file.getValue(), time);
      }
    }
    return bytes.toByteArray();
  }

  private OutputStream compressed(OutputStream out) throws IOException {
    return switch (format) {
      case "tar.gz" -> new GZIPOutputStream(out);
      case "tar.zst" -> new ZstdCompressorOutputStream(out);
      default -> out;
    };
  }

  private static void zip(Map<String, byte[]> files, Instant time, OutputStream out)
      throws IOException {
    try (ZipOutputStream zip = new ZipOutputStream(out, StandardCharsets.UTF_8)) {
      for (Map.Entry<String, byte[]> file : files.entrySet()) {
        ZipEntry entry = new ZipEntry(file.getKey());
        entry.setTimeLocal(time.atOffset(java.time.ZoneOffset.UTC).toLocalDateTime());
        zip.putNextEntry(entry);
        zip.write(file.getValue());
      }
    }
  }

  private static void put(TarArchiveOutputStream tar, String name, byte[] content, Instant time)
      throws IOException {
    TarArchiveEntry entry = new TarArchiveEntry(name);
    entry.setSize(content.length);
    entry.setModTime(time.toEpochMilli() / 1000 * 1000);
    entry.setMode(0644);
    tar.putArchiveEntry(entry);
    tar.write(content);
    tar.closeArchiveEntry();
  }
}
