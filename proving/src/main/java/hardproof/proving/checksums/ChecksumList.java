package hardproof.proving.checksums;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A list as {@code sha256sum} writes it: digest, two spaces (or a space and an asterisk), path. A
 * leading backslash marks a path in which backslash and line feed are escaped (GNU coreutils
 * manual, "md5sum invocation").
 */
public final class ChecksumList {
  private static final Pattern LINE = Pattern.compile("(\\\\?)([0-9a-fA-F]{64}) [ *](.+)");

  private ChecksumList() {}

  /**
   * @return path to lower-case digest, in the order of the list
   * @throws IllegalArgumentException naming the line that is not one, or is there twice
   */
  public static Map<String, String> parse(String text) {
    Map<String, String> sums = new LinkedHashMap<>();
    int number = 0;
    for (String line : text.split("\n", -1)) {
      number++;
      if (line.isBlank()) {
        continue;
      }
      Matcher matcher =
          LINE.matcher(line.endsWith("\r") ? line.substring(0, line.length() - 1) : line);
      if (!matcher.matches()) {
        throw new IllegalArgumentException(
            "line " + number + " of the checksum list is not a SHA-256 and a path");
      }
      String path = matcher.group(3);
      if (!matcher.group(1).isEmpty()) {
        path = path.replace("\\\\", "\0").replace("\\n", "\n").replace("\0", "\\");
      }
      if (path.startsWith("./")) {
        path = path.substring(2);
      }
      if (sums.put(path, matcher.group(2).toLowerCase(java.util.Locale.ROOT)) != null) {
        throw new IllegalArgumentException(
            "line " + number + " of the checksum list names " + path + " again");
      }
    }
    return sums;
  }

  /** Sorted by path, so that the same sums are the same bytes. */
  public static String format(Map<String, String> sums) {
    List<String> lines = new ArrayList<>();
    new TreeMap<>(sums).forEach((path, sum) -> {
      boolean escape = path.indexOf('\\') >= 0 || path.indexOf('\n') >= 0;
      String shown = escape ? path.replace("\\", "\\\\").replace("\n", "\\n") : path;
      lines.add((escape ? "\\" : "") + sum + "  " + shown + "\n");
    });
    return String.join("", lines);
  }
}
