package hardproof.proving.databases;

import java.io.IOException;
import java.io.InputStream;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a dump tells of itself before it is loaded: which people it names without making them, its encoding,
 * its version, and whether it has its end.
 */
final class PostgresSurvey {
  private static final Pattern VERSION =
      Pattern.compile("Dumped (?:from database|by pg_dump) version (\\d+).*");
  private static final Pattern BEGIN = Pattern.compile("PostgreSQL database (?:cluster )?dump");
  private static final Pattern END =
      Pattern.compile("PostgreSQL database (?:cluster )?dump complete");

  private final Set<String> roles = new TreeSet<>();
  private final Set<String> made = new TreeSet<>();
  private int begins;
  private int ends;
  private int version;
  private String encoding = "UTF8";
  private boolean cutOff;

  private PostgresSurvey() {}

  /**
   * @param dump read to its end
   */
  static PostgresSurvey of(InputStream dump, Runnable stopIfCancelled) throws IOException {
    PostgresSurvey survey = new PostgresSurvey();
    PostgresLexer lexer = PostgresLexer.of(dump, survey::comment);
    PostgresLexer.Piece piece;
    while ((piece = lexer.next()) != null) {
      stopIfCancelled.run();
      if (piece.kind() == PostgresLexer.Kind.REST) {
        survey.cutOff |= !piece.statement().isBlank();
      } else if (piece.kind() == PostgresLexer.Kind.STATEMENT) {
        takeStatement(stopIfCancelled, survey, lexer, piece);
      }
    }
    return survey;
  }

  private static void takeStatement(
      Runnable stopIfCancelled,
      PostgresSurvey survey,
      PostgresLexer lexer,
      PostgresLexer.Piece piece)
      throws IOException {
    PostgresStatement statement = new PostgresStatement(piece.statement());
    survey.take(statement);
    if (statement.copiesData()) {
      survey.cutOff |= !lexer.copyData(null, stopIfCancelled);
    }
  }

  private void comment(String comment) {
    begins += BEGIN.matcher(comment).matches() ? 1 : 0;
    ends += END.matcher(comment).matches() ? 1 : 0;
    Matcher matcher = VERSION.matcher(comment);
    if (matcher.matches() && matcher.group(1).length() < 4) {
      version = Math.max(version, Integer.parseInt(matcher.group(1)));
    }
  }

  private void take(PostgresStatement statement) {
    roles.addAll(statement.roles());
    if (statement.madeRole() != null) {
      made.add(statement.madeRole());
    }
    String[] setting = statement.setting();
    if (setting != null && setting[0].equals("client_encoding")) {
      encoding = setting[1].replace("'", "");
    }
  }

  /** Everybody that it names. */
  Set<String> roles() {
    Set<String> all = new TreeSet<>(roles);
    all.addAll(made);
    return all;
  }

  /** Those that it names and does not make. */
  Set<String> rolesNotInIt() {
    Set<String> others = new TreeSet<>(roles);
    others.removeAll(made);
    return others;
  }

  /** Bytes of any encoding are only taken by a database that has none. */
  boolean withoutEncoding() {
    return encoding.equalsIgnoreCase("SQL_ASCII");
  }

  /** The newest version that had to do with it; 0 when it tells none. */
  int version() {
    return version;
  }

  /** It ends inside a statement or data, or without the closing line of a dump that has an opening one. */
  boolean cutOff() {
    return cutOff || ends < begins;
  }

  /** It has neither opening nor closing line: whether it is whole can't be told. */
  boolean unmarked() {
    return begins == 0 && ends == 0;
  }
}
