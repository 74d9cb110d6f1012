package hardproof.proving.databases;

import java.io.IOException;
import java.io.Reader;
import java.util.Locale;

/**
 * Splits a script into its statements, as SQLite's own {@code sqlite3_complete} tells where one ends: a
 * semicolon outside of quotes and comments, and for triggers the one after their END.
 */
final class SqlStatements {
  private static final int LONGEST = 64 << 20;

  private final Reader in;
  private final StringBuilder statement = new StringBuilder();
  private final StringBuilder word = new StringBuilder();
  private int words;
  private boolean create;
  private boolean temporary;
  private boolean trigger;
  private boolean semicolonBefore;
  private boolean endSeen;
  private int lines = 1;
  private int begins = 1;
  private boolean begun;
  private int pushedBack = -1;

  SqlStatements(Reader in) {
    this.in = in;
  }

  /** Whether there is nothing but spaces and comments in it. */
  static boolean nothing(String statement) {
    String bare = statement.strip();
    if (!bare.isEmpty() && "-/;".indexOf(bare.charAt(0)) < 0) {
      return false;
    }
    return bare.replaceAll("(?s)/\\*.*?(\\*/|$)", " ")
        .replaceAll("--[^\n]*", " ")
        .replace(";", " ")
        .isBlank();
  }

  private int read() throws IOException {
    int c = pushedBack >= 0 ? pushedBack : in.read();
    pushedBack = -1;
    if (c >= 0) {
      if (statement.length() >= LONGEST) {
        throw new IOException("a statement is longer than " + LONGEST + " characters");
      }
      if (!begun) {
        begins = lines;
        begun = !Character.isWhitespace(c);
      }
      statement.append((char) c);
      lines += c == '\n' ? 1 : 0;
    }
    return c;
  }

  private int peek() throws IOException {
    if (pushedBack < 0) {
      pushedBack = in.read();
    }
    return pushedBack;
  }

  /** The next statement with its semicolon; the rest of the script when none follows; null at the end. */
  String next() throws IOException {
    reset();
    int c;
    while ((c = read()) >= 0) {
      if (Character.isLetterOrDigit(c) || c == '_') {
        word.append((char) c);
        continue;
      }
      wordEnds();
      switch (c) {
        case '\'', '"', '`' -> quoted(c);
        case '[' -> quoted(']');
        case '-' -> {
          if (peek() == '-') {
            skipTo('\n');
          } else {
            other();
          }
        }
        case '/' -> {
          if (peek() == '*') {
            comment();
          } else {
            other();
          }
        }
        case ';' -> {
          if (!trigger || endSeen) {
            return statement.toString();
          }
          semicolonBefore = true;
        }
        default -> {
          if (!Character.isWhitespace(c)) {
            other();
          }
        }
      }
    }
    wordEnds();
    return statement.toString().isBlank() ? null : statement.toString();
  }

  private void reset() {
    statement.setLength(0);
    begun = false;
    words = 0;
    create = false;
    trigger = false;
    semicolonBefore = false;
    endSeen = false;
  }

  /** The line of the script on which the last statement began, from 1. */
  int line() {
    return begins;
  }

  private void wordEnds() {
    if (word.length() == 0) {
      return;
    }
    String w = word.toString().toLowerCase(Locale.ROOT);
    word.setLength(0);
    words++;
    if (words == 1) {
      create = w.equals("create");
    }
    // A table may be called "trigger".
    if (create && w.equals("trigger") && (words == 2 || words == 3 && temporary)) {
      trigger = true;
    }
    temporary = words == 2 && (w.equals("temp") || w.equals("temporary"));
    endSeen = semicolonBefore && w.equals("end");
    semicolonBefore = false;
  }

  private void other() {
    semicolonBefore = false;
    endSeen = false;
  }

  private void quoted(int end) throws IOException {
    other();
    skipTo(end);
  }

  /** A quote that is doubled inside a text ends and begins it again, which comes to the same. */
  private void skipTo(int end) throws IOException {
    int c;
    do {
      c = read();
    } while (c >= 0 && c != end);
  }

  private void comment() throws IOException {
    int before = 0;
    int c;
    read();
    while ((c = read()) >= 0 && !(before == '*' && c == '/')) {
      before = c;
    }
  }
}
