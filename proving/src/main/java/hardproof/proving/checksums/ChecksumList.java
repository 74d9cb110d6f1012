package hardproof.proving.checksums;

import hardproof.proving.names.EntryName;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A list as {@code sha256sum} and its siblings write it: digest, two spaces (or a space and an asterisk),
 * path; or with {@code --tag}, {@code SHA256 (path) = digest}, which {@code openssl dgst} writes without
 * spaces. A leading backslash marks a path in which backslash, line feed and carriage return are escaped; with
 * {@code --zero} nothing is, and lines end in a zero byte (GNU coreutils manual, "md5sum invocation").
 */
public final class ChecksumList {
  private static final Pattern TAGGED =
      Pattern.compile("([A-Za-z0-9-]+) ?\\((.*)\\) ?= ([0-9a-fA-F]+)", Pattern.DOTALL);
  private static final char MARK = '\ufeff';

  private ChecksumList() {}

  /**
   * A list of SHA-256 alone.
   *
   * @return path to lower-case digest, in the order of the list
   * @throws IllegalArgumentException naming the line that is not one, or is there twice
   */
  public static Map<String, String> parse(String text) {
    Map<String, String> sums = new LinkedHashMap<>();
    read(text).forEach((path, sum) -> {
      if (sum.kind() != DigestKind.SHA256) {
        throw new IllegalArgumentException(
            "the checksum list holds a " + sum.kind().algorithm() + " of " + EntryName.shown(path)
                + ", and a SHA-256 is needed");
      }
      sums.put(path, sum.hex());
    });
    return sums;
  }

  /**
   * A list of digests of any kind that is known; which kind is told by its tag, else by its length.
   *
   * @return path to checksum, in the order of the list
   * @throws IllegalArgumentException naming the line that is not one, or is there twice
   */
  public static Map<String, Checksum> read(String text) {
    Map<String, Checksum> sums = new LinkedHashMap<>();
    boolean zero = text.endsWith("\0");
    String[] lines = text.split(zero ? "\0" : "\n", -1);
    boolean dos = !zero && dosLines(lines);
    for (int i = 0; i < lines.length; i++) {
      String line = lines[i];
      if (i == 0 && !line.isEmpty() && line.charAt(0) == MARK) {
        line = line.substring(1);
      }
      if (dos && line.endsWith("\r")) {
        line = line.substring(0, line.length() - 1);
      }
      // What OpenPGP's clear signing or a person puts around a list are comments.
      if (!line.isBlank() && !line.startsWith("#")) {
        add(sums, line, !zero && line.startsWith("\\"), i + 1);
      }
    }
    return sums;
  }

  private static boolean dosLines(String[] lines) {
    for (int i = 0; i < lines.length - 1; i++) {
      if (!lines[i].endsWith("\r")) {
        return false;
      }
    }
    return true;
  }

  private static void add(Map<String, Checksum> sums, String whole, boolean escaped, int number) {
    String line = escaped ? whole.substring(1) : whole;
    int digits = digits(line);
    Checksum sum;
    String path;
    Matcher tagged;
    if (plain(line, digits)) {
      sum = new Checksum(
          DigestKind.ofLength(digits).orElseThrow(() -> wrong(number)),
          line.substring(0, digits).toLowerCase(Locale.ROOT));
      path = line.substring(digits + 2);
    } else if ((tagged = TAGGED.matcher(line)).matches()) {
      sum = new Checksum(
          kind(tagged.group(1), tagged.group(3), number), tagged.group(3).toLowerCase(Locale.ROOT));
      path = tagged.group(2);
    } else {
      throw wrong(number);
    }
    path = EntryName.path(escaped ? unescaped(path) : path);
    if (path.isEmpty()) {
      throw wrong(number);
    }
    if (sums.put(path, sum) != null) {
      throw new IllegalArgumentException(
          "line " + number + " of the checksum list names " + EntryName.shown(path) + " again");
    }
  }

  private static IllegalArgumentException wrong(int number) {
    return new IllegalArgumentException("line " + number
        + " of the checksum list is not a checksum (SHA-256, SHA-512, SHA-1 or MD5) and a path");
  }

  private static DigestKind kind(String tag, String hex, int number) {
    String name = tag.replace("SHA2-", "SHA").replace("-", "").toLowerCase(Locale.ROOT);
    DigestKind kind = DigestKind.named(name)
        .orElseThrow(() -> new IllegalArgumentException(
            "line " + number + " of the checksum list is by " + tag + ", which is not read here"));
    if (kind.hexLength() != hex.length()) {
      throw wrong(number);
    }
    return kind;
  }

  private static String unescaped(String path) {
    StringBuilder name = new StringBuilder();
    for (int i = 0; i < path.length(); i++) {
      char c = path.charAt(i);
      if (c != '\\' || i + 1 == path.length()) {
        name.append(c);
        continue;
      }
      char next = path.charAt(++i);
      switch (next) {
        case 'n' -> name.append('\n');
        case 'r' -> name.append('\r');
        case '\\' -> name.append('\\');
        default -> name.append(c).append(next);
      }
    }
    return name.toString();
  }

  /** By hand, as lists of a million lines are read. */
  private static int digits(String line) {
    int n = 0;
    while (n < line.length() && HexFormat.isHexDigit(line.charAt(n))) {
      n++;
    }
    return n;
  }

  /** Digits, a space, the sign of how it was read, a path. */
  private static boolean plain(String line, int digits) {
    return digits >= 32
        && line.length() > digits + 2
        && line.charAt(digits) == ' '
        && (line.charAt(digits + 1) == ' ' || line.charAt(digits + 1) == '*');
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
