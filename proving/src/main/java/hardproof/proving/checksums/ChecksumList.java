package hardproof.proving.checksums;

import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * A list as {@code sha256sum} writes it: digest, two spaces (or a space and an asterisk), path. A
 * leading backslash marks a path in which backslash and line feed are escaped (GNU coreutils
 * manual, "md5sum invocation").
 */
public final class ChecksumList {
  private static final int HEX = 64;

  private ChecksumList() {}

  /**
   * @return path to lower-case digest, in the order of the list
   * @throws IllegalArgumentException naming the line that is not one, or is there twice
   */
  public static Map<String, String> parse(String text) {
    Map<String, String> sums = new LinkedHashMap<>();
    int number = 0;
    for (String whole : text.split("\n", -1)) {
      number++;
      if (whole.isBlank()) {
        continue;
      }
      boolean escaped = whole.startsWith("\\");
      String line =
          whole.substring(escaped ? 1 : 0, whole.length() - (whole.endsWith("\r") ? 1 : 0));
      if (!isSumAndPath(line)) {
        throw new IllegalArgumentException(
            "line " + number + " of the checksum list is not a SHA-256 and a path");
      }
      String path = line.substring(HEX + 2);
      if (escaped) {
        path = path.replace("\\\\", "\0").replace("\\n", "\n").replace("\0", "\\");
      }
      if (path.startsWith("./")) {
        path = path.substring(2);
      }
      if (sums.put(path, line.substring(0, HEX).toLowerCase(java.util.Locale.ROOT)) != null) {
        throw new IllegalArgumentException(
            "line " + number + " of the checksum list names " + path + " again");
      }
    }
    return sums;
  }

  /** Digits, a space, the sign of how it was read, a path; by hand, as lists of a million lines are read. */
  private static boolean isSumAndPath(String line) {
    if (line.length() <= HEX + 2
        || line.charAt(HEX) != ' '
        || (line.charAt(HEX + 1) != ' ' && line.charAt(HEX + 1) != '*')) {
      return false;
    }
    for (int i = 0; i < HEX; i++) {
      if (!HexFormat.isHexDigit(line.charAt(i))) {
        return false;
      }
    }
    return true;
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
