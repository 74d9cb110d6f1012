package hardproof.proving.databases;

import hardproof.proving.formats.NotReadHere;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteConnection;
import org.sqlite.SQLiteErrorCode;
import org.sqlite.SQLiteException;
import org.sqlite.SQLiteLimits;

/**
 * A restored SQLite file, opened as one that may be hostile: read-only, nothing attached, no
 * functions of the schema's own choosing run, and a limit on time.
 */
public final class SqliteDatabase extends RestoredDatabase {
  private static final int FAULTS_COUNTED = 1000;
  private static final Duration TIME_LIMIT = Duration.ofMinutes(10);

  private static final Set<Integer> DISK_CODES = Set.of(
      SQLiteErrorCode.SQLITE_FULL.code,
      SQLiteErrorCode.SQLITE_IOERR_WRITE.code,
      SQLiteErrorCode.SQLITE_IOERR_FSYNC.code,
      SQLiteErrorCode.SQLITE_IOERR_TRUNCATE.code);

  private final Connection connection;
  private final StatementWatch watch;

  private SqliteDatabase(Connection connection, Runnable stopIfCancelled) {
    this.connection = connection;
    this.watch = new StatementWatch(TIME_LIMIT, stopIfCancelled);
  }

  /**
   * @param stopIfCancelled called often while something is asked; what it throws ends the question
   */
  public static SqliteDatabase open(Path file, Runnable stopIfCancelled) throws QueryFailed {
    SQLiteConfig config = new SQLiteConfig();
    config.setReadOnly(true);
    config.enableLoadExtension(false);
    try {
      Connection connection = config.createConnection("jdbc:sqlite:" + file.toAbsolutePath());
      nothingAttached(connection);
      trustNothing(connection);
      return new SqliteDatabase(connection, stopIfCancelled);
    } catch (SQLException e) {
      throw new QueryFailed(e.getMessage(), e);
    }
  }

  private static void trustNothing(Connection connection) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("PRAGMA trusted_schema = OFF");
      statement.execute("PRAGMA cell_size_check = ON");
      statement.execute("PRAGMA query_only = ON");
    }
  }

  /**
   * Says for the whole process where SQLite keeps what does not fit into memory, such as a large sort; by
   * itself it would take the system's folder. To be called before any database is opened.
   */
  public static void temporaryFilesIn(Path folder) throws IOException {
    String quoted = "'" + folder.toAbsolutePath().toString().replace("'", "''") + "'";
    try (Connection connection = new SQLiteConfig().createConnection("jdbc:sqlite::memory:");
        Statement statement = connection.createStatement()) {
      statement.execute("PRAGMA temp_store_directory = " + quoted);
    } catch (SQLException e) {
      throw new IOException("SQLite can't keep temporary files in " + folder, e);
    }
  }

  /** ATTACH, and VACUUM INTO, which attaches, are refused by the engine from now on. */
  static void nothingAttached(Connection connection) throws SQLException {
    connection.unwrap(SQLiteConnection.class).setLimit(SQLiteLimits.SQLITE_LIMIT_ATTACHED, 0);
  }

  /**
   * Tells a disk that is full, or fails when it is written, from a fault of the data (result codes of the
   * SQLite manual: 13, and 10 with write, fsync and truncate).
   */
  static void stopIfDiskFull(SQLException e) throws IOException {
    int code = e instanceof SQLiteException s ? s.getResultCode().code : e.getErrorCode();
    if (DISK_CODES.contains(code)) {
      throw new IOException("the database's disk: " + e.getMessage(), e);
    }
  }

  /** What {@code PRAGMA integrity_check} finds. */
  @Override
  public List<String> integrityFaults() throws QueryFailed, IOException {
    List<String> faults = new ArrayList<>();
    for (String line : values("PRAGMA integrity_check(" + FAULTS_LISTED + ")", FAULTS_LISTED)) {
      if (!line.equals("ok")) {
        faults.add(line.replaceAll("\\s+", " ")
            .replace("*** in database main *** ", "")
            .strip());
      }
    }
    refuseMissing(faults);
    return faults;
  }

  private static void refuseMissing(List<String> faults) throws NotReadHere {
    for (String fault : faults) {
      String missing = SqliteMissing.of(fault);
      if (missing != null) {
        throw new NotReadHere(
            "the integrity check takes what the program that made the database brings along"
                + " and SQLite here does not have (" + missing + ")");
      }
    }
  }

  /**
   * Rows that refer to rows that are not there: SQLite demands none of it by itself, so that it may have
   * been so when the backup was taken.
   */
  @Override
  public String remark() throws IOException {
    try {
      Map<String, Integer> tables = new TreeMap<>();
      values("PRAGMA foreign_key_check", FAULTS_COUNTED)
          .forEach(table -> tables.merge(table, 1, Integer::sum));
      return danglingRows(tables);
    } catch (QueryFailed e) {
      return "foreign keys can't be checked: " + e.getMessage();
    }
  }

  private static String danglingRows(Map<String, Integer> tables) {
    return tables.isEmpty()
        ? null
        : "rows refer to rows that are not there, which SQLite allows: "
            + tables.entrySet().stream()
                .limit(3)
                .map(e -> (e.getValue() == FAULTS_COUNTED ? "at least " : "") + e.getValue()
                    + " of " + e.getKey())
                .collect(java.util.stream.Collectors.joining(", "));
  }

  @Override
  public Emptiness emptiness() throws QueryFailed, IOException {
    List<String> tables = values(
        "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\'"
            + " AND rootpage > 0",
        Integer.MAX_VALUE);
    long filled = filled(tables);
    return Emptiness.of(tables.size(), filled);
  }

  private long filled(List<String> tables) throws RestoredDatabase.QueryFailed, IOException {
    long filled = 0;
    for (String table : tables) {
      if (!values("SELECT 1 FROM \"" + table.replace("\"", "\"\"") + "\" LIMIT 1", 1)
          .isEmpty()) {
        filled++;
        break;
      }
    }
    return filled;
  }

  @Override
  List<String> values(String sql, int atMost) throws QueryFailed, IOException {
    List<String> values = new ArrayList<>();
    try (Statement statement = connection.createStatement()) {
      watch.during(statement, () -> {
        try (ResultSet rows = statement.executeQuery(sql)) {
          while (values.size() < atMost && rows.next()) {
            values.add(rows.getString(1));
          }
        }
      });
    } catch (SQLException e) {
      stopIfDiskFull(e);
      SqliteMissing.stopIfOurs(e, "a question");
      throw new QueryFailed(e.getMessage(), e);
    }
    return values;
  }

  @Override
  public void close() {
    watch.close();
    try {
      connection.close();
    } catch (SQLException e) {
      // It was only read; there is nothing to lose.
    }
  }
}
