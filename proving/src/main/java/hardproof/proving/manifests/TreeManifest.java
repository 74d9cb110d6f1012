package hardproof.proving.manifests;

import hardproof.proving.checksums.ChecksumList;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * What a tree should be: files with their SHA-256 and, where the manifest tells them, their attributes.
 *
 * @param files by path, with / between its parts
 */
public record TreeManifest(Map<String, Item> files) {
  /**
   * One file.
   *
   * @param sha256 lower-case hex
   * @param mode permissions; null when not told
   * @param modified null when not told
   */
  public record Item(String sha256, Integer mode, Instant modified) {}

  /**
   * Reads a list as {@code sha256sum} writes it.
   *
   * @throws IllegalArgumentException naming the line that is wrong
   */
  public static TreeManifest ofChecksums(String text) {
    Map<String, Item> files = new LinkedHashMap<>();
    ChecksumList.parse(text).forEach((path, sum) -> files.put(path, new Item(sum, null, null)));
    return new TreeManifest(files);
  }

  /**
   * Reads a specification in the mtree format (mtree(5) of the BSDs, in the form with whole paths that
   * {@code bsdtar --format=mtree} writes). Only files count; they need {@code sha256digest} or {@code sha256}.
   *
   * @throws IllegalArgumentException naming the line that is wrong
   */
  public static TreeManifest ofMtree(String text) {
    Map<String, Item> files = new LinkedHashMap<>();
    Map<String, String> defaults = new HashMap<>();
    int number = 0;
    for (String line : text.replace("\\\n", " ").split("\r?\n")) {
      number++;
      String[] words = line.strip().split("\\s+");
      if (words[0].isEmpty() || words[0].startsWith("#")) {
        continue;
      }
      Map<String, String> keywords = new HashMap<>(words[0].startsWith("/") ? Map.of() : defaults);
      for (int i = 1; i < words.length; i++) {
        int equal = words[i].indexOf('=');
        keywords.put(
            equal < 0 ? words[i] : words[i].substring(0, equal),
            equal < 0 ? "" : words[i].substring(equal + 1));
      }
      if (words[0].equals("/set")) {
        defaults.putAll(keywords);
      } else if (words[0].equals("/unset")) {
        defaults.keySet().removeAll(keywords.keySet());
      } else if ("file".equals(keywords.getOrDefault("type", "file"))) {
        add(files, words[0], keywords, number);
      }
    }
    return new TreeManifest(files);
  }

  private static void add(
      Map<String, Item> files, String name, Map<String, String> keywords, int number) {
    String sum = keywords.getOrDefault("sha256digest", keywords.get("sha256"));
    if (sum == null || !sum.matches("[0-9a-fA-F]{64}")) {
      throw new IllegalArgumentException(
          "line " + number + " of the mtree manifest has no SHA-256 (sha256digest=…)");
    }
    try {
      String mode = keywords.get("mode");
      String time = keywords.get("time");
      Item item = new Item(
          sum.toLowerCase(java.util.Locale.ROOT),
          mode == null ? null : Integer.parseInt(mode, 8),
          time == null ? null : instant(time));
      String path = decoded(name);
      if (files.put(path.startsWith("./") ? path.substring(2) : path, item) != null) {
        throw new IllegalArgumentException(
            "line " + number + " of the mtree manifest names " + path + " again");
      }
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException(
          "line " + number + " of the mtree manifest has a mode or time that is no number", e);
    }
  }

  /** Seconds with a fraction. */
  private static Instant instant(String time) {
    BigDecimal value = new BigDecimal(time);
    long seconds = value.longValue();
    return Instant.ofEpochSecond(
        seconds, value.subtract(BigDecimal.valueOf(seconds)).movePointRight(9).longValue());
  }

  /** Bytes that would break a line are written as a backslash and three octal digits (vis(3)). */
  private static String decoded(String name) {
    if (name.indexOf('\\') < 0) {
      return name;
    }
    byte[] in = name.getBytes(StandardCharsets.UTF_8);
    byte[] out = new byte[in.length];
    int n = 0;
    for (int i = 0; i < in.length; i++) {
      boolean octal = in[i] == '\\'
          && i + 3 < in.length
          && new String(in, i + 1, 3, StandardCharsets.US_ASCII).matches("[0-3][0-7]{2}");
      if (octal) {
        out[n++] = (byte) Integer.parseInt(new String(in, i + 1, 3, StandardCharsets.US_ASCII), 8);
        i += 3;
      } else {
        out[n++] = in[i];
      }
    }
    return new String(out, 0, n, StandardCharsets.UTF_8);
  }
}
