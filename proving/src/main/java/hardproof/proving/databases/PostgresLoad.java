package hardproof.proving.databases;

import hardproof.proving.databases.RestoredDatabase.QueryFailed;
import hardproof.proving.formats.NotReadHere;
import java.io.IOException;
import java.io.InputStream;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Loads one plain dump, statement by statement as psql would. What a drill gives no rights for, or what
 * belongs to a whole server, is left out and counted; nothing inside of data or functions is touched.
 */
final class PostgresLoad {
  /** Commands of psql that change what it prints and when it stops, not what is loaded. */
  private static final Pattern SHOWS = Pattern.compile(
      "\\\\(timing|echo|qecho|warn|pset|x|a|t|f|H|C|T)(\\s.*)?"
          + "|\\\\set\\s+(ON_ERROR_STOP|ON_ERROR_ROLLBACK|ECHO|ECHO_HIDDEN|QUIET|VERBOSITY|SHOW_CONTEXT)(\\s.*)?");

  /** Those that a script may need to be loaded, and that a drill does not carry out. */
  private static final Pattern OTHERS = Pattern.compile(
      "(?s)\\\\(set|unset|if|elif|else|endif|i|ir|include|include_relative|gset|gexec|gdesc|copy|prompt"
          + "|bind|q|p|r|d[a-zA-Z+]*|l|z|conninfo|password|crosstabview)(\\s.*)?");

  private static final Pattern PROGRAM = Pattern.compile("(?is)\\\\copy\\s.*\\bprogram\\b.*");

  private static final List<String> CLEARS =
      List.of("DROP", "ALTER", "SELECT pg_catalog.lo_unlink");
  private static final List<String> MAKES = List.of("CREATE", "COPY", "INSERT");

  private final PostgresDatabase database;
  private final PostgresSurvey survey;
  private final PostgresLeftOut leftOut;
  private final Runnable stopIfCancelled;
  private final Set<String> databases = new LinkedHashSet<>();
  private PostgresSession session;
  private boolean made;
  private int line = 1;

  PostgresLoad(
      PostgresDatabase database,
      PostgresSurvey survey,
      Set<String> settings,
      Runnable stopIfCancelled) {
    this.database = database;
    this.survey = survey;
    this.leftOut = new PostgresLeftOut(settings);
    this.stopIfCancelled = stopIfCancelled;
  }

  /** Databases that were loaded into, in order. */
  Set<String> databases() {
    return databases;
  }

  /**
   * @throws QueryFailed with the server's words and the line of the dump
   * @throws NotReadHere when it takes what this server lacks
   */
  void load(InputStream dump) throws QueryFailed, IOException {
    PostgresLexer lexer = PostgresLexer.of(dump, comment -> {});
    try {
      connect(PostgresDatabase.RESTORED);
      carryOut(lexer);
    } catch (PostgresSession.Refused e) {
      database.server().stopIfDiskFull(e.said());
      throw told(e);
    } finally {
      if (session != null) {
        session.close();
      }
    }
  }

  private void carryOut(PostgresLexer lexer)
      throws RestoredDatabase.QueryFailed, PostgresSession.Refused, IOException {
    try {
      pieces(lexer);
    } catch (IOException e) {
      // Writing fails where psql has ended: what it said is thrown by the end of its session.
      session.finish();
      throw e;
    }
    session.finish();
  }

  private void pieces(PostgresLexer lexer)
      throws QueryFailed, PostgresSession.Refused, IOException {
    PostgresLexer.Piece piece;
    while ((piece = lexer.next()) != null) {
      stopIfCancelled.run();
      send(blank(piece.text().substring(0, piece.body())));
      PostgresStatement statement = new PostgresStatement(piece.statement());
      if (piece.kind() == PostgresLexer.Kind.COMMAND) {
        command(piece.statement());
      } else {
        send(passed(statement, piece.statement()));
      }
      copyRows(lexer, piece, statement);
    }
  }

  private void copyRows(PostgresLexer lexer, PostgresLexer.Piece piece, PostgresStatement statement)
      throws IOException {
    if (piece.kind() == PostgresLexer.Kind.STATEMENT && statement.copiesData()) {
      lexer.copyData(session.writer(), () -> {
        line++;
        stopIfCancelled.run();
      });
      line++;
    }
  }

  private static int lines(String text) {
    return (int) text.chars().filter(c -> c == '\n').count();
  }

  /** As many empty lines, so that those that follow keep their numbers. */
  private static String blank(String text) {
    return "\n".repeat(lines(text)) + (text.isEmpty() ? "" : " ");
  }

  private void send(String text) throws IOException {
    line += lines(text);
    session.writer().write(text);
  }

  private void connect(String name) throws QueryFailed, PostgresSession.Refused, IOException {
    if (session != null) {
      session.finish();
    }
    database.ensure(name, survey.withoutEncoding());
    databases.add(name);
    made = false;
    session = database.session(name, line);
  }

  /**
   * Lines for psql: of these a change of the database or of the encoding is carried out, and what only
   * changes how psql shows things is not needed.
   */
  private void command(String command) throws QueryFailed, PostgresSession.Refused, IOException {
    String bare = command.strip();
    if (bare.startsWith("\\restrict ") || bare.startsWith("\\unrestrict ")) {
      send(blank(command));
    } else if (bare.matches("\\\\c(onnect)?\\s.*")) {
      line += lines(command);
      connect(named(bare.replaceFirst("\\\\c(onnect)?\\s+", "")));
    } else if (bare.matches("\\\\encoding\\s+\\w+")) {
      send("SET client_encoding = " + literal(bare.replaceFirst("\\S+\\s+", "")) + ";\n");
    } else if (SHOWS.matcher(bare).matches()) {
      send(blank(command));
    } else if (OTHERS.matcher(bare).matches() && !PROGRAM.matcher(bare).matches()) {
      throw new NotReadHere(
          "line " + line + ": it holds a command for psql that is not carried out here ("
              + bare.split("\\s+")[0] + ")");
    } else {
      // No command at all, or one that runs programs or writes files. psql is told to carry out
      // none, and says so.
      send(command);
    }
  }

  /** {@code name}, {@code "name"}, or a connection string with {@code dbname='name'}. */
  private String named(String argument) {
    String bare = argument.replaceFirst("^-reuse-previous=\\w+\\s+", "").strip();
    if (bare.startsWith("\"dbname=") || bare.startsWith("'dbname=")) {
      String value = bare.substring(8, bare.length() - 1);
      return value.startsWith("'") ? value.substring(1, value.length() - 1) : value;
    }
    String first = bare.startsWith("\"") ? bare : bare.split("\\s+")[0];
    return first.equals("-")
        ? PostgresDatabase.RESTORED
        : first.startsWith("\"") ? PostgresStatement.name(first) : first;
  }

  /** What is sent for a statement: itself, nothing, or what comes to the same here. */
  private String passed(PostgresStatement statement, String text) throws QueryFailed, IOException {
    String nothing = blank(text);
    if (leftOut.takes(statement)) {
      return nothing;
    }
    if (statement.database() != null) {
      if (statement.begins("CREATE")) {
        database.ensure(statement.database(), survey.withoutEncoding());
      }
      return nothing;
    }
    String[] extension = statement.extension();
    made |= extension == null && statement.beginsWithOneOf(MAKES);
    if (extension != null && database.needsRights(extension[0])) {
      return "SELECT hard_proof.extension(" + literal(extension[0]) + ", "
          + (extension[1] == null ? "'public'" : literal(extension[1])) + ");" + nothing;
    }
    boolean clears = !made && statement.beginsWithOneOf(CLEARS);
    return clears ? whatMayFail(text) : text;
  }

  private static String literal(String text) {
    return "'" + text.replace("'", "''") + "'";
  }

  /** What clears an older state of a database, of which nothing is here, may find nothing to clear. */
  private String whatMayFail(String text) {
    String outer = "$hard_proof_" + database.tag() + "$";
    String inner = "$hard_proof_in_" + database.tag() + "$";
    return "DO " + outer + " BEGIN EXECUTE " + inner + text + inner
        + "; EXCEPTION WHEN OTHERS THEN NULL; END " + outer + ";";
  }

  /** What the server's refusal says: of the data, or of what is missing here. */
  private Exception refusal(PostgresSession.Refused e) {
    String missing = e.missing();
    String where = "line " + e.line() + ": ";
    if (missing != null) {
      return new NotReadHere(where + missing);
    }
    int here = database.server().major();
    if (survey.version() > here) {
      return new NotReadHere("it was made by PostgreSQL " + survey.version() + ", and "
          + here + " is installed here, which says on " + where + e.getMessage()
          + ". Install the newer one");
    }
    return refused(e, where);
  }

  private Exception refused(PostgresSession.Refused e, String where) {
    boolean dangling = e.state().startsWith("42") && !leftOut.kinds().isEmpty();
    return dangling
        ? new NotReadHere(where + e.getMessage() + ", which may come of what a drill leaves out ("
            + String.join(", ", leftOut.kinds()) + ")")
        : new QueryFailed(where + e.getMessage(), e);
  }

  private QueryFailed told(PostgresSession.Refused e) throws NotReadHere {
    Exception refusal = refusal(e);
    if (refusal instanceof NotReadHere lacking) {
      throw lacking;
    }
    return (QueryFailed) refusal;
  }

  /** What was left out and who is missing, for people; empty when nothing was. */
  String notes() {
    return leftOut.notes(survey.rolesNotInIt());
  }
}
