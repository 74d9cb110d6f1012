package hardproof.proving.databases;

import hardproof.core.wording.Wording;
import hardproof.proving.databases.RestoredDatabase.QueryFailed;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.formats.WithoutContent;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.sqlite.SQLiteConfig;

/** Loads a dump of SQL statements into a fresh SQLite file. */
public final class SqliteDump {
  private static final int PAGE_BYTES = 4096;
  private static final Duration STATEMENT_LIMIT = Duration.ofMinutes(10);

  private static final int LEFT_OUT_NAMED = 20;

  private static final List<String> KNOWN = List.of(
      "syntax error",
      "incomplete input",
      "no such table",
      "no such column",
      "not authorized",
      "too many attached",
      "already exists",
      "UNIQUE constraint failed",
      "NOT NULL constraint failed",
      "CHECK constraint failed",
      "FOREIGN KEY constraint failed",
      "datatype mismatch",
      "cannot commit",
      "database or disk is full",
      "unrecognized token");

  private static final Pattern BEGIN =
      Pattern.compile("(?is)(?:\\s|--[^\n]*\n|/\\*.*?\\*/)*BEGIN\\b");

  private SqliteDump() {}

  /**
   * What a dump came to.
   *
   * @param leftOut pragmas that were not carried out, as they say nothing of the database, by name
   */
  public record Loaded(long statements, Set<String> leftOut) {
    /** {@code 12 statements; left out: PRAGMA cache_size}. */
    public String sentence() {
      return Wording.count(statements, "statement", "statements")
          + (leftOut.isEmpty()
              ? ""
              : "; left out, as it says nothing of the data: PRAGMA "
                  + Wording.list(List.copyOf(leftOut)));
    }
  }

  /**
   * Runs every statement. The file can't grow beyond {@code maxBytes}, no other file can be opened, and
   * nothing but the database itself can be set.
   *
   * @throws QueryFailed naming the statement that the engine refused
   * @throws NotReadHere when it takes what is not here, or nothing tells whether it is whole
   * @throws IOException when the dump can't be read
   */
  public static Loaded load(InputStream dump, Path file, long maxBytes, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    SQLiteConfig config = new SQLiteConfig();
    config.enableLoadExtension(false);
    SqlStatements statements = new SqlStatements(text(dump));
    long done = 0;
    boolean framed = false;
    Set<String> leftOut = new TreeSet<>();
    String sql = null;
    try (Connection connection = config.createConnection("jdbc:sqlite:" + file.toAbsolutePath());
        Statement statement = connection.createStatement();
        StatementWatch watch = new StatementWatch(STATEMENT_LIMIT, stopIfCancelled)) {
      prepare(connection, statement, maxBytes);
      while ((sql = statements.next()) != null) {
        String one = sql;
        if (SqlStatements.nothing(one)) {
          continue;
        }
        framed |= BEGIN.matcher(one).lookingAt();
        String pragma = DumpPragmas.leftOut(one);
        if (pragma == null) {
          watch.during(statement, () -> statement.execute(one));
        } else if (leftOut.size() < LEFT_OUT_NAMED) {
          leftOut.add(pragma.length() > 40 ? "of a long name" : pragma);
        }
        done++;
      }
      refuseUnlessWhole(done, framed, statement);
    } catch (SQLException e) {
      // Where it may not grow any more, it is full by our limit; where it may, by the disk.
      if (Files.size(file) < (maxBytes / PAGE_BYTES - 1) * PAGE_BYTES) {
        SqliteDatabase.stopIfDiskFull(e);
      }
      SqliteMissing.stopIfOurs(e, "statement " + (done + 1));
      throw new QueryFailed(
          "statement " + (done + 1) + ", which begins on line " + statements.line()
              + ", was refused by SQLite: " + WithoutContent.of(said(e)),
          e);
    }
    return new Loaded(done, leftOut);
  }

  private static Reader text(InputStream dump) {
    return new BufferedReader(
        new InputStreamReader(
            dump,
            StandardCharsets.UTF_8
                .newDecoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT)),
        1 << 16);
  }

  private static void prepare(Connection connection, Statement statement, long maxBytes)
      throws SQLException {
    SqliteDatabase.nothingAttached(connection);
    statement.execute("PRAGMA page_size = " + PAGE_BYTES);
    statement.execute("PRAGMA journal_mode = MEMORY");
    statement.execute("PRAGMA synchronous = OFF");
    statement.execute("PRAGMA trusted_schema = OFF");
    statement.execute("PRAGMA max_page_count = " + Math.max(1, maxBytes / PAGE_BYTES));
  }

  private static void refuseUnlessWhole(long done, boolean framed, Statement statement)
      throws QueryFailed, NotReadHere, SQLException {
    if (done == 0) {
      throw new QueryFailed("it holds no statement", null);
    }
    if (!framed) {
      throw new NotReadHere(
          "it is loaded, but has no BEGIN and COMMIT around it, as SQLite dumps have:"
              + " whether it is whole can't be told");
    }
    if (inTransaction(statement)) {
      throw new QueryFailed("it ends inside a transaction: it is cut off", null);
    }
  }

  /** Some of the engine's sentences end in a name or a value without quoting it. */
  private static String said(SQLException e) {
    String message = String.valueOf(e.getMessage());
    int bracket = message.indexOf('(');
    String own = bracket < 0 ? message : message.substring(bracket + 1);
    for (String known : KNOWN) {
      if (own.contains(known)) {
        return known;
      }
    }
    return bracket < 0 ? "it can't be carried out" : message.substring(0, bracket);
  }

  private static boolean inTransaction(Statement statement) {
    try {
      statement.execute("BEGIN");
      statement.execute("ROLLBACK");
      return false;
    } catch (SQLException e) {
      return true;
    }
  }
}
