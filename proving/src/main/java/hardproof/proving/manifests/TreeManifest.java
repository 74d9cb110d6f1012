package hardproof.proving.manifests;

import hardproof.proving.checksums.ChecksumList;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
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
   * Reads a specification in the mtree format (mtree(5) of the BSDs): entries with whole paths, as {@code
   * bsdtar --format=mtree} writes them, or one below the other, as {@code mtree -c} does. Only files count;
   * they need {@code sha256digest} or {@code sha256}.
   *
   * @throws IllegalArgumentException naming the line that is wrong
   */
  public static TreeManifest ofMtree(String text) {
    Map<String, Item> files = new LinkedHashMap<>();
    Map<String, String> defaults = new HashMap<>();
    Deque<String> folder = new ArrayDeque<>();
    String[] lines = text.split("\r?\n");
    for (int i = 0; i < lines.length; i++) {
      int number = i + 1;
      String line = lines[i];
      while (line.endsWith("\\") && i + 1 < lines.length) {
        line = line.substring(0, line.length() - 1) + " " + lines[++i];
      }
      String[] words = line.strip().split("\\s+");
      if (words[0].isEmpty() || words[0].startsWith("#")) {
        continue;
      }
      Map<String, String> keywords = new HashMap<>(words[0].startsWith("/") ? Map.of() : defaults);
      for (String word : List.of(words).subList(1, words.length)) {
        int equal = word.indexOf('=');
        keywords.put(
            equal < 0 ? word : word.substring(0, equal),
            equal < 0 ? "" : word.substring(equal + 1));
      }
      if (words[0].equals("/set")) {
        defaults.putAll(keywords);
        continue;
      }
      if (words[0].equals("/unset")) {
        defaults.keySet().removeAll(keywords.keySet());
        continue;
      }
      // A name without a slash lies in the folder that was named last and not left yet.
      boolean whole = words[0].indexOf('/') > 0;
      String type = keywords.getOrDefault("type", "file");
      if (words[0].equals("..")) {
        if (folder.pollLast() == null) {
          throw new IllegalArgumentException(
              "line " + number + " of the mtree manifest leaves a folder that none began");
        }
      } else if (!whole && type.equals("dir")) {
        folder.addLast(words[0]);
      } else if (type.equals("file")) {
        String path =
            whole || folder.isEmpty() ? words[0] : String.join("/", folder) + "/" + words[0];
        add(files, path, keywords, number);
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

  private static final String SIGNS = "snrtabvf0\\#";
  private static final String MEANT = " \n\r\t\007\b\013\f\0\\#";

  /** Seconds with a fraction. */
  private static Instant instant(String time) {
    BigDecimal value = new BigDecimal(time);
    long seconds = value.longValue();
    return Instant.ofEpochSecond(
        seconds, value.subtract(BigDecimal.valueOf(seconds)).movePointRight(9).longValue());
  }

  /**
   * Bytes that would break a line are written as a backslash and three octal digits, or as in C with
   * {@code \s} for a space (vis(3)).
   */
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
      } else if (in[i] == '\\' && i + 1 < in.length && SIGNS.indexOf(in[i + 1]) >= 0) {
        out[n++] = (byte) MEANT.charAt(SIGNS.indexOf(in[++i]));
      } else {
        out[n++] = in[i];
      }
    }
    return new String(out, 0, n, StandardCharsets.UTF_8);
  }
}
