package hardproof.proving.manifests;

import hardproof.proving.archives.ArchiveEntry.Kind;
import hardproof.proving.archives.SpecialEntry;
import hardproof.proving.checksums.Checksum;
import hardproof.proving.checksums.DigestKind;
import hardproof.proving.manifests.TreeManifest.Item;
import hardproof.proving.names.EntryName;
import java.io.ByteArrayOutputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Reads a specification in the mtree format (mtree(5) of the BSDs): entries with whole paths, as {@code
 * bsdtar --format=mtree} writes them, or one below the other, as {@code mtree -c} does. Files need a
 * digest, {@code sha256digest} or another; links and devices are compared by what they point to.
 */
final class MtreeReader {
  private static final String SIGNS = "snrtabvf0\\#";
  private static final String MEANT = " \n\r\t\007\b\013\f\0\\#";

  private final Map<String, Item> files = new LinkedHashMap<>();
  private final Map<String, SpecialEntry> specials = new TreeMap<>();
  private final Set<String> folders = new LinkedHashSet<>();
  private final Map<String, String> defaults = new HashMap<>();
  private final Deque<String> folder = new ArrayDeque<>();

  /**
   * @throws IllegalArgumentException naming the line that is wrong
   */
  TreeManifest read(String text) {
    String[] lines = text.split("\r?\n");
    for (int i = 0; i < lines.length; i++) {
      int number = i + 1;
      String line = lines[i];
      while (line.endsWith("\\") && i + 1 < lines.length) {
        line = line.substring(0, line.length() - 1) + " " + lines[++i];
      }
      String[] words = line.strip().split("[ \t]+");
      if (!words[0].isEmpty() && !words[0].startsWith("#")) {
        line(words, number);
      }
    }
    return new TreeManifest(files, specials, folders, true);
  }

  private void line(String[] words, int number) {
    Map<String, String> keywords = keywords(words);
    if (words[0].equals("/set")) {
      defaults.putAll(keywords);
    } else if (words[0].equals("/unset")) {
      defaults.keySet().removeAll(keywords.keySet());
    } else if (words[0].equals("..")) {
      if (folder.pollLast() == null) {
        throw wrong(number, "leaves a folder that none began");
      }
    } else {
      entry(words[0], keywords, number);
    }
  }

  private Map<String, String> keywords(String[] words) {
    Map<String, String> keywords = new HashMap<>(words[0].startsWith("/") ? Map.of() : defaults);
    for (String word : List.of(words).subList(1, words.length)) {
      int equal = word.indexOf('=');
      keywords.put(
          equal < 0 ? word : word.substring(0, equal), equal < 0 ? "" : word.substring(equal + 1));
    }
    return keywords;
  }

  private void entry(String word, Map<String, String> keywords, int number) {
    // A name without a slash lies in the folder that was named last and not left yet.
    boolean whole = word.indexOf('/') > 0;
    String type = keywords.getOrDefault("type", "file");
    String above = whole || folder.isEmpty() ? "" : String.join("/", folder) + "/";
    String path = EntryName.path(decoded(above + word));
    boolean optional = keywords.containsKey("optional");
    switch (type) {
      case "dir" -> {
        if (!whole) {
          folder.addLast(word);
        }
        if (!path.isEmpty() && !optional) {
          folders.add(path);
        }
      }
      case "file" -> file(path, keywords, number);
      case "link" -> special(path, Kind.LINK, keywords, number);
      case "fifo" -> special(path, Kind.PIPE, keywords, number);
      case "char" -> special(path, Kind.CHARACTER_DEVICE, keywords, number);
      case "block" -> special(path, Kind.BLOCK_DEVICE, keywords, number);
      case "socket" -> {
        // No archive holds one: it lives as long as who listens on it.
      }
      default -> throw wrong(number, "is of a type that is none: " + EntryName.shown(type));
    }
  }

  private static IllegalArgumentException wrong(int number, String what) {
    return new IllegalArgumentException("line " + number + " of the mtree manifest " + what);
  }

  private void special(String path, Kind kind, Map<String, String> keywords, int number) {
    String target = kind == Kind.LINK ? keywords.get("link") : numbers(keywords.get("device"));
    if (target != null && kind == Kind.LINK) {
      target = decoded(target);
    }
    if (specials.put(path, new SpecialEntry(path, kind, target, null, null)) != null) {
      throw wrong(number, "names " + EntryName.shown(path) + " again");
    }
  }

  /** {@code native,8,1} or {@code 8,1}; null when it is told in another way. */
  private static String numbers(String device) {
    if (device == null) {
      return null;
    }
    String[] parts = device.split(",");
    boolean pair = parts.length >= 2
        && parts[parts.length - 2].matches("\\d+")
        && parts[parts.length - 1].matches("\\d+");
    return pair ? parts[parts.length - 2] + "," + parts[parts.length - 1] : null;
  }

  private void file(String path, Map<String, String> keywords, int number) {
    Checksum sum = strongest(keywords);
    if (sum == null) {
      throw wrong(number, "has no SHA-256 (sha256digest=…)");
    }
    Item item = item(keywords, number, sum);
    if (files.put(path, item) != null) {
      throw wrong(number, "names " + EntryName.shown(path) + " again");
    }
  }

  private static Item item(Map<String, String> keywords, int number, Checksum sum) {
    String mode = keywords.get("mode");
    String time = keywords.get("time");
    Item item;
    try {
      item = new Item(
          sum,
          mode == null ? null : Integer.valueOf(Integer.parseInt(mode, 8)),
          time == null ? null : instant(time));
    } catch (NumberFormatException e) {
      throw wrong(number, "has a mode or time that is no number");
    }
    return item;
  }

  /** The strongest of the digests that are told; null when none is. */
  private static Checksum strongest(Map<String, String> keywords) {
    return Arrays.stream(DigestKind.values())
        .map(kind -> {
          String name = kind.name().toLowerCase(Locale.ROOT);
          String hex = keywords.getOrDefault(name + "digest", keywords.get(name));
          return hex != null && hex.matches("[0-9a-fA-F]{" + kind.hexLength() + "}")
              ? new Checksum(kind, hex.toLowerCase(Locale.ROOT))
              : null;
        })
        .filter(java.util.Objects::nonNull)
        .findFirst()
        .orElse(null);
  }

  /** Seconds with a fraction. */
  private static Instant instant(String time) {
    BigDecimal value = new BigDecimal(time);
    long seconds = value.longValue();
    return Instant.ofEpochSecond(
        seconds, value.subtract(BigDecimal.valueOf(seconds)).movePointRight(9).longValue());
  }

  /**
   * {@code M-x} for a byte with its highest bit, {@code ^x} for a control character, {@code M^x} for both.
   *
   * @param at behind the backslash
   * @return how many bytes it takes; 0 when there is none
   */
  private static int marked(byte[] in, int at, ByteArrayOutputStream out) {
    boolean meta = at < in.length && in[at] == 'M';
    int sign = meta ? at + 1 : at;
    if (sign + 1 >= in.length || in[sign] != '^' && !(meta && in[sign] == '-')) {
      return 0;
    }
    int c = in[sign] == '^' ? in[sign + 1] ^ 0x40 : in[sign + 1];
    out.write(meta ? c | 0x80 : c);
    return sign + 2 - at;
  }

  /**
   * Bytes that would break a line are written as a backslash and three octal digits, or as in C with
   * {@code \s} for a space (vis(3)).
   */
  static String decoded(String name) {
    if (name.indexOf('\\') < 0) {
      return name;
    }
    byte[] in = EntryName.bytes(name);
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    for (int i = 0; i < in.length; i++) {
      int marked = in[i] == '\\' ? marked(in, i + 1, out) : 0;
      if (marked > 0) {
        i += marked;
        continue;
      }
      boolean octal = in[i] == '\\'
          && i + 3 < in.length
          && new String(in, i + 1, 3, StandardCharsets.ISO_8859_1).matches("[0-3][0-7]{2}");
      if (octal) {
        out.write(Integer.parseInt(new String(in, i + 1, 3, StandardCharsets.ISO_8859_1), 8));
        i += 3;
      } else if (in[i] == '\\' && i + 1 < in.length && SIGNS.indexOf(in[i + 1]) >= 0) {
        out.write(MEANT.charAt(SIGNS.indexOf(in[++i])));
      } else {
        out.write(in[i]);
      }
    }
    return EntryName.of(out.toByteArray());
  }
}
