package hardproof.core.recipes;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Where in a list of files their places stand: in a column of their own, or in lines of {@code ls -l} and {@code find -ls}.
 *
 * @param expression in a recipe
 * @param places what it comes to in each row; null where it comes to nothing
 * @param size where that stands in the same line; null where it does not
 */
record Places(
    String column,
    String expression,
    List<@Nullable String> places,
    @Nullable FieldRule size) {
  /** What {@code find -ls} and {@code ls -l} write of a file: its size, and behind the time its name. */
  private static final Pattern LONG = Pattern.compile(
      "^\\s*(?:\\d+\\s+\\d+\\s+)?-[-rwxsStT]{9}[.+@]?\\s+\\d+\\s+\\S+\\s+\\S+\\s+(\\d+)\\s+"
          + "(?:\\S+\\s+\\d+\\s+[\\d:]+|\\d{4}-\\d\\d-\\d\\d[ T][\\d:.]+(?:\\s+[+-]\\d{4})?)\\s+(.+)$");

  private static final String SIZE_OF_LONG =
      "^\\s*(?:\\d+\\s+\\d+\\s+)?-\\S+\\s+\\d+\\s+\\S+\\s+\\S+\\s+(\\d+)\\s";
  private static final String NAME_OF_LONG =
      "^\\s*(?:\\d+\\s+\\d+\\s+)?-\\S+\\s+\\d+\\s+\\S+\\s+\\S+\\s+\\d+\\s+"
          + "(?:\\S+\\s+\\d+\\s+[\\d:]+|\\d{4}-\\d\\d-\\d\\d[ T][\\d:.]+(?:\\s+[+-]\\d{4})?)\\s+(.+)$";

  /**
   * Null where no column holds places.
   *
   * @param notes gets what was taken for granted
   */
  static @Nullable Places of(ReportTable table, List<String> notes) {
    for (String column : table.columns()) {
      List<@Nullable String> values = table.values(column);
      List<String> given = values.stream().filter(v -> v != null).toList();
      boolean longs = !given.isEmpty()
          && table.columns().size() == 1
          && given.stream().filter(v -> LONG.matcher(v).matches()).count() * 2 > given.size();
      if (longs) {
        String in = Expressions.name(column);
        return prefixed(
            notes,
            column,
            "part(" + in + ", " + raw(NAME_OF_LONG) + ")",
            values.stream().map(Places::nameOfLong).toList(),
            FieldRule.by("part(" + in + ", " + raw(SIZE_OF_LONG) + ")"));
      }
      long paths = given.stream().filter(v -> v.matches(".*[/\\\\][^/\\\\]+")).count();
      long files =
          given.stream().filter(v -> v.matches(".*\\.[A-Za-z][A-Za-z0-9]{0,7}")).count();
      boolean apart = given.stream().distinct().count() == given.size();
      boolean rows = given.size() * 2 > table.rows().size();
      if (rows && apart && files * 3 >= given.size() && (paths + files) * 10 >= given.size() * 8L) {
        return prefixed(notes, column, Expressions.name(column), values, null);
      }
    }
    return null;
  }

  private static @Nullable String nameOfLong(@Nullable String line) {
    Matcher m = line == null ? null : LONG.matcher(line);
    return m != null && m.matches() ? m.group(2) : null;
  }

  /** Without what all of them begin with, where that leads to the top of a computer or is a dot. */
  private static Places prefixed(
      List<String> notes,
      String column,
      String expression,
      List<@Nullable String> values,
      @Nullable FieldRule size) {
    String prefix = null;
    for (String value : values) {
      String folder = value == null ? null : value.substring(0, value.lastIndexOf('/') + 1);
      prefix = folder == null ? prefix : prefix == null ? folder : common(prefix, folder);
    }
    boolean cut = prefix != null && (prefix.startsWith("/") || prefix.startsWith("./"));
    String most = cut && prefix.startsWith("./") ? "./" : prefix;
    if (!cut || most.isEmpty()) {
      return new Places(column, expression, values, size);
    }
    if (most.startsWith("/")) {
      notes.add("Places are taken below " + most + ".");
    }
    String in = most;
    List<@Nullable String> below = new ArrayList<>();
    for (String value : values) {
      below.add(value == null ? null : value.substring(Math.min(value.length(), in.length())));
    }
    return new Places(
        column, expression + ".replace(" + RecipeGuess.quoted(most) + ", '', 1)", below, size);
  }

  private static String common(String a, String b) {
    int n = 0;
    while (n < Math.min(a.length(), b.length()) && a.charAt(n) == b.charAt(n)) {
      n++;
    }
    return a.substring(0, a.substring(0, n).lastIndexOf('/') + 1);
  }

  /** A text without escapes in an expression, where it has no quote. */
  static String raw(String text) {
    return text.contains("'") ? RecipeGuess.quoted(text) : "r'" + text + "'";
  }
}
