package hardproof.proving.checks;

import com.google.re2j.Pattern;
import hardproof.core.wording.WrongValue;
import java.nio.file.Path;

/**
 * A pattern of paths such as {@code **}{@code /*.csv}, as the JDK's "glob:" reads it, but matched in a time that grows with
 * the length of the path alone: the JDK's own tries every split at every star, and one pattern with many stars would
 * never come to an end.
 *
 * <p>{@code *} stands for any characters but {@code /}, {@code **} for any, {@code ?} for one, {@code [a-c]} and
 * {@code [!a-c]} for one of those or of the others, {@code {a,b}} for either, and a backslash takes the next
 * character as it is.
 */
public final class PathPattern {
  private final Pattern pattern;

  private PathPattern(Pattern pattern) {
    this.pattern = pattern;
  }

  /**
   * Reads a pattern.
   *
   * @throws WrongValue with what is wrong with it
   */
  public static PathPattern of(String text) {
    return new PathPattern(Pattern.compile(new Translation(text).regex(), Pattern.DOTALL));
  }

  /** Whether the whole path is of this pattern; separators count as {@code /}. */
  public boolean matches(Path path) {
    return pattern.matches(path.toString());
  }

  /** To a regular expression, from left to right. */
  private static final class Translation {
    private final String text;
    private final StringBuilder regex = new StringBuilder();
    private int at;

    Translation(String text) {
      this.text = text;
    }

    String regex() {
      boolean inGroup = false;
      while (at < text.length()) {
        char c = text.charAt(at++);
        switch (c) {
          case '\\' -> literal(next("ends with a backslash"));
          case '*' -> star();
          case '?' -> regex.append("[^/]");
          case '[' -> oneOf();
          case '{' -> {
            if (inGroup) {
              throw wrong("has a { within a {");
            }
            inGroup = true;
            regex.append("(?:(?:");
          }
          case '}' -> {
            regex.append(inGroup ? "))" : "\\}");
            inGroup = false;
          }
          case ',' -> regex.append(inGroup ? ")|(?:" : ",");
          default -> literal(c);
        }
      }
      if (inGroup) {
        throw wrong("has a { without its }");
      }
      return regex.toString();
    }

    private void star() {
      boolean two = at < text.length() && text.charAt(at) == '*';
      at += two ? 1 : 0;
      regex.append(two ? ".*" : "[^/]*");
    }

    private char next(String otherwise) {
      if (at == text.length()) {
        throw wrong(otherwise);
      }
      return text.charAt(at++);
    }

    private void literal(char c) {
      regex.append(Pattern.quote(String.valueOf(c)));
    }

    private void oneOf() {
      boolean others = at < text.length() && text.charAt(at) == '!';
      at += others ? 1 : 0;
      StringBuilder ranges = new StringBuilder(others ? "[^/" : "[");
      int before = ranges.length();
      char c = next("has a [ without its ]");
      while (c != ']') {
        oneRange(ranges, c);
        c = next("has a [ without its ]");
      }
      if (ranges.length() == before) {
        throw wrong("has nothing between [ and ]");
      }
      regex.append(ranges).append(']');
    }

    private void oneRange(StringBuilder ranges, char c) {
      char until = c;
      if (at + 1 < text.length() && text.charAt(at) == '-' && text.charAt(at + 1) != ']') {
        at++;
        until = text.charAt(at++);
      }
      if (c == '/' || until == '/') {
        throw wrong("names / between [ and ]");
      }
      if (until < c) {
        throw wrong("has a range that ends before it begins");
      }
      range(ranges, c, until);
    }

    /** One that spans / leaves it out. */
    private static void range(StringBuilder to, char from, char until) {
      if (from < '/' && until > '/') {
        range(to, from, '.');
        range(to, '0', until);
        return;
      }
      to.append(String.format("\\x{%x}-\\x{%x}", (int) from, (int) until));
    }

    private WrongValue wrong(String what) {
      return new WrongValue("\"" + text + "\" is no pattern of paths: it " + what
          + "; write it as **/*.csv for example");
    }
  }
}
