package hardproof.proving.databases;

import java.util.Locale;
import java.util.Set;

/**
 * The pragmas of a dump. Only those that say something of the database itself are carried out; others
 * are settings of whoever runs it, some of the whole process (SQLite manual, "PRAGMA Statements").
 */
final class DumpPragmas {
  private static final Set<String> CARRIED_OUT = Set.of(
      "application_id",
      "auto_vacuum",
      "defer_foreign_keys",
      "encoding",
      "foreign_keys",
      "ignore_check_constraints",
      "legacy_alter_table",
      "recursive_triggers",
      "user_version",
      "writable_schema");

  private DumpPragmas() {}

  /**
   * The name of the pragma that a statement would set and must not; null when it may be carried out.
   * {@code EXPLAIN} is no way round: some pragmas work while they are prepared.
   */
  static String leftOut(String statement) {
    int at = wordAt(statement, 0);
    String word = word(statement, at);
    if (word.equals("explain")) {
      at = wordAt(statement, at + word.length());
      word = word(statement, at);
      if (word.equals("query")) {
        at = wordAt(statement, at + word.length());
        at = wordAt(statement, at + word(statement, at).length());
        word = word(statement, at);
      }
    }
    if (!word.equals("pragma")) {
      return null;
    }
    at = wordAt(statement, at + word.length());
    String name = name(statement, at);
    int after = wordAt(statement, at + name.length());
    if (after < statement.length() && statement.charAt(after) == '.') {
      name = name(statement, wordAt(statement, after + 1));
    }
    return CARRIED_OUT.contains(name) ? null : name.isEmpty() ? "without a name" : name;
  }

  /** Where the next word begins, behind spaces and comments as SQLite skips them. */
  private static int wordAt(String sql, int from) {
    int at = from;
    while (at < sql.length()) {
      char c = sql.charAt(at);
      if (Character.isWhitespace(c) || c == '\uFEFF') {
        at++;
      } else if (sql.startsWith("--", at)) {
        int end = sql.indexOf('\n', at);
        at = end < 0 ? sql.length() : end + 1;
      } else if (sql.startsWith("/*", at)) {
        int end = sql.indexOf("*/", at + 2);
        at = end < 0 ? sql.length() : end + 2;
      } else {
        return at;
      }
    }
    return at;
  }

  private static String word(String sql, int at) {
    int end = at;
    while (end < sql.length()
        && (Character.isLetterOrDigit(sql.charAt(end)) || sql.charAt(end) == '_')) {
      end++;
    }
    return sql.substring(Math.min(at, sql.length()), end).toLowerCase(Locale.ROOT);
  }

  /** A name may stand in quotes; then it is none of those that are carried out. */
  private static String name(String sql, int at) {
    String plain = word(sql, at);
    return plain.isEmpty() && at < sql.length() && "\"'`[".indexOf(sql.charAt(at)) >= 0
        ? "in quotes"
        : plain;
  }
}
