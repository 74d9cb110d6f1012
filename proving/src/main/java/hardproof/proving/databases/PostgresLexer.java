package hardproof.proving.databases;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.function.Consumer;

/**
 * Splits a plain dump of PostgreSQL as psql does: statements end at a semicolon outside of quotes, dollar
 * quotes, comments, parentheses and bodies that begin with {@code BEGIN ATOMIC}; lines of {@code COPY … FROM
 * stdin} go up to {@code \.}; a backslash at the beginning is a command of psql's (PostgreSQL manual, "Lexical
 * Structure" and "psql"). Nothing is changed: what is inside data and functions stays as it stands.
 */
final class PostgresLexer {
  /** In UTF-8, with a char for each byte. */
  private static final String MARK = "\u00ef\u00bb\u00bf";

  private final Reader in;
  private final Consumer<String> comments;
  private final StringBuilder text = new StringBuilder();
  private final StringBuilder word = new StringBuilder();
  private int pushedBack = -2;
  private int parentheses;
  private int bodies;
  private boolean atomic;
  private boolean begun;

  /**
   * A piece of the script, with the comments and spaces before it.
   *
   * @param body where the piece itself begins in the text
   */
  record Piece(Kind kind, String text, int body) {
    String statement() {
      return text.substring(body);
    }
  }

  /** What a piece is. */
  enum Kind {
    STATEMENT,
    /** A line for psql itself. */
    COMMAND,
    /** Spaces and comments at the end; or a statement that nothing ends. */
    REST
  }

  private PostgresLexer(Reader in, Consumer<String> comments) {
    this.in = in;
    this.comments = comments;
  }

  /**
   * @param dump read with a char for each byte; a byte order mark is read over, as psql does
   * @param comments told each comment that stands on a line, without its dashes
   */
  static PostgresLexer of(InputStream dump, Consumer<String> comments) throws IOException {
    Reader in =
        new BufferedReader(new InputStreamReader(dump, StandardCharsets.ISO_8859_1), 1 << 16);
    in.mark(MARK.length());
    for (int i = 0; i < MARK.length(); i++) {
      if (in.read() != MARK.charAt(i)) {
        in.reset();
        break;
      }
    }
    return new PostgresLexer(in, comments);
  }

  private int read() throws IOException {
    int c = pushedBack == -2 ? in.read() : pushedBack;
    pushedBack = -2;
    if (c >= 0) {
      text.append((char) c);
    }
    return c;
  }

  private int peek() throws IOException {
    if (pushedBack == -2) {
      pushedBack = in.read();
    }
    return pushedBack;
  }

  /** The next piece; null at the end. */
  Piece next() throws IOException {
    beginAnew();
    int body = 0;
    int c;
    while ((c = read()) >= 0) {
      boolean comment = c == '-' && peek() == '-' || c == '/' && peek() == '*';
      if (!begun && !comment && !Character.isWhitespace(c)) {
        begun = true;
        body = text.length() - 1;
        if (c == '\\') {
          line();
          return new Piece(Kind.COMMAND, text.toString(), body);
        }
      }
      if (inWord(c)) {
        word.append((char) c);
        continue;
      }
      sign(c);
      if (c == ';' && parentheses == 0 && bodies == 0) {
        return new Piece(Kind.STATEMENT, text.toString(), body);
      }
    }
    return text.length() == 0
        ? null
        : new Piece(Kind.REST, text.toString(), begun ? body : text.length());
  }

  private void beginAnew() {
    text.setLength(0);
    word.setLength(0);
    parentheses = 0;
    bodies = 0;
    atomic = false;
    begun = false;
  }

  /** What is no part of a word: it may begin a text, in which no sign counts. */
  private void sign(int c) throws IOException {
    boolean escapes = word.length() == 1 && "eE".indexOf(word.charAt(0)) >= 0;
    boolean inName = word.length() > 0;
    wordEnds();
    if (c == '\'') {
      quoted('\'', escapes);
    } else if (c == '"') {
      quoted('"', false);
    } else if (c == '$' && !inName) {
      dollar();
    } else if (c == '-' && peek() == '-') {
      lineComment();
    } else if (c == '/' && peek() == '*') {
      blockComment();
    } else if (c == '(') {
      parentheses++;
    } else if (c == ')') {
      parentheses = Math.max(0, parentheses - 1);
    }
  }

  private static boolean inWord(int c) {
    return c >= 'a' && c <= 'z'
        || c >= 'A' && c <= 'Z'
        || c >= '0' && c <= '9'
        || c == '_'
        || c >= 0x80;
  }

  /** {@code BEGIN ATOMIC} opens a body, {@code CASE} an expression in it; {@code END} ends either. */
  private void wordEnds() {
    if (word.length() == 0) {
      return;
    }
    String w = word.length() > 6 ? "" : word.toString().toUpperCase(java.util.Locale.ROOT);
    word.setLength(0);
    if (w.equals("ATOMIC") && atomic) {
      bodies = Math.max(bodies, 1);
    } else if (bodies > 0 && w.equals("CASE")) {
      bodies++;
    } else if (bodies > 0 && w.equals("END")) {
      bodies--;
    }
    atomic = w.equals("BEGIN");
  }

  private void line() throws IOException {
    int c;
    do {
      c = read();
    } while (c >= 0 && c != '\n');
  }

  private void lineComment() throws IOException {
    int from = text.length() - 1;
    line();
    comments.accept(text.substring(from).replaceFirst("^--+", "").strip());
  }

  private void blockComment() throws IOException {
    int depth = 0;
    int before = '/';
    int c;
    while ((c = read()) >= 0) {
      if (before == '/' && c == '*') {
        depth++;
        c = 0;
      } else if (before == '*' && c == '/') {
        depth--;
        c = 0;
      }
      if (depth == 0) {
        return;
      }
      before = c;
    }
  }

  /** A quote that is doubled inside a text ends and begins it again, which comes to the same. */
  private void quoted(int end, boolean escapes) throws IOException {
    int c;
    while ((c = read()) >= 0 && c != end) {
      if (escapes && c == '\\') {
        read();
      }
    }
  }

  /** A dollar that begins a quote: {@code $$} or {@code $tag$}; a parameter like {@code $1} is none. */
  private void dollar() throws IOException {
    StringBuilder tag = new StringBuilder("$");
    while (peek() >= 0 && inWord(peek()) && !(tag.length() == 1 && Character.isDigit(peek()))) {
      tag.append((char) read());
    }
    if (peek() != '$') {
      return;
    }
    tag.append((char) read());
    String end = tag.toString();
    int from = text.length();
    int c;
    while ((c = read()) >= 0) {
      int begin = text.length() - end.length();
      if (c == '$' && begin >= from && end.contentEquals(text.subSequence(begin, text.length()))) {
        return;
      }
    }
  }

  /**
   * Passes on what follows a {@code COPY … FROM stdin}: the rest of its line, and lines up to {@code \.}.
   *
   * @param to null to read over it
   * @return whether the lines came to their end
   */
  boolean copyData(Writer to, Runnable each) throws IOException {
    StringBuilder line = new StringBuilder();
    boolean first = true;
    while (true) {
      line.setLength(0);
      int c;
      while ((c = pushedBack == -2 ? in.read() : pushedBack) >= 0 && c != '\n') {
        pushedBack = -2;
        line.append((char) c);
      }
      pushedBack = -2;
      if (to != null) {
        to.append(line);
        to.write('\n');
      }
      boolean ended = !first
          && (line.length() == 2 || line.length() == 3 && line.charAt(2) == '\r')
          && line.charAt(0) == '\\'
          && line.charAt(1) == '.';
      if (ended || c < 0) {
        return ended;
      }
      first = false;
      each.run();
    }
  }
}
