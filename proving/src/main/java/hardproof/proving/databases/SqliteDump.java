package hardproof.proving.databases;

import hardproof.proving.databases.RestoredDatabase.QueryFailed;
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
import org.sqlite.SQLiteConfig;

/** Loads a dump of SQL statements into a fresh SQLite file. */
public final class SqliteDump {
  private static final int PAGE_BYTES = 4096;
  private static final Duration STATEMENT_LIMIT = Duration.ofMinutes(10);

  private SqliteDump() {}

  /**
   * Runs every statement. The file can't grow beyond {@code maxBytes}, and no other file can be opened.
   *
   * @return number of statements
   * @throws QueryFailed naming the statement that the engine refused
   * @throws IOException when the dump can't be read
   */
  public static long load(InputStream dump, Path file, long maxBytes, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    SQLiteConfig config = new SQLiteConfig();
    config.enableLoadExtension(false);
    Reader reader = new java.io.BufferedReader(
        new InputStreamReader(
            dump,
            StandardCharsets.UTF_8
                .newDecoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT)),
        1 << 16);
    SqlStatements statements = new SqlStatements(reader);
    long done = 0;
    String sql = null;
    try (Connection connection = config.createConnection("jdbc:sqlite:" + file.toAbsolutePath());
        Statement statement = connection.createStatement();
        StatementWatch watch = new StatementWatch(STATEMENT_LIMIT, stopIfCancelled)) {
      SqliteDatabase.nothingAttached(connection);
      statement.execute("PRAGMA page_size = " + PAGE_BYTES);
      statement.execute("PRAGMA journal_mode = MEMORY");
      statement.execute("PRAGMA synchronous = OFF");
      statement.execute("PRAGMA trusted_schema = OFF");
      statement.execute("PRAGMA max_page_count = " + Math.max(1, maxBytes / PAGE_BYTES));
      while ((sql = statements.next()) != null) {
        String one = sql;
        if (one.strip().equals(";")) {
          continue;
        }
        watch.during(statement, () -> statement.execute(one));
        done++;
      }
      if (inTransaction(statement)) {
        throw new QueryFailed("it ends inside a transaction: it is cut off", null);
      }
    } catch (SQLException e) {
      // Where it may not grow any more, it is full by our limit; where it may, by the disk.
      if (Files.size(file) < (maxBytes / PAGE_BYTES - 1) * PAGE_BYTES) {
        SqliteDatabase.stopIfDiskFull(e);
      }
      String line = sql == null ? "" : sql.strip().replaceAll("\\s+", " ");
      throw new QueryFailed(
          "statement " + (done + 1) + " ("
              + (line.length() > 60 ? line.substring(0, 59) + "…" : line) + ") was refused: "
              + e.getMessage(),
          e);
    }
    if (done == 0) {
      throw new QueryFailed("it holds no statement", null);
    }
    return done;
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
