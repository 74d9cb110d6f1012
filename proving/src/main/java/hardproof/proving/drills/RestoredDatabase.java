package hardproof.proving.drills;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteConnection;
import org.sqlite.SQLiteLimits;

/**
 * A restored SQLite file, opened as one that may be hostile: read-only, nothing attached, no
 * functions of the schema's own choosing run, and a limit on time.
 */
final class RestoredDatabase implements AutoCloseable {
  private static final int FAULTS_LISTED = 10;
  private static final long TIME_LIMIT_SECONDS = 600;

  private final Connection connection;
  private final Runnable stopIfCancelled;
  private final ScheduledExecutorService watchdog =
      Executors.newSingleThreadScheduledExecutor(r -> {
        Thread thread = new Thread(r, "restored-database-watchdog");
        thread.setDaemon(true);
        return thread;
      });

  private RestoredDatabase(Connection connection, Runnable stopIfCancelled) {
    this.connection = connection;
    this.stopIfCancelled = stopIfCancelled;
  }

  static RestoredDatabase open(Path file, Runnable stopIfCancelled) throws SQLException {
    SQLiteConfig config = new SQLiteConfig();
    config.setReadOnly(true);
    config.enableLoadExtension(false);
    config.setPragma(SQLiteConfig.Pragma.LIMIT_ATTACHED, "0");
    Connection connection = config.createConnection("jdbc:sqlite:" + file.toAbsolutePath());
    connection.unwrap(SQLiteConnection.class).setLimit(SQLiteLimits.SQLITE_LIMIT_ATTACHED, 0);
    try (Statement statement = connection.createStatement()) {
      statement.execute("PRAGMA trusted_schema = OFF");
      statement.execute("PRAGMA cell_size_check = ON");
      statement.execute("PRAGMA query_only = ON");
    }
    return new RestoredDatabase(connection, stopIfCancelled);
  }

  /** What {@code PRAGMA integrity_check} and {@code foreign_key_check} find; empty when all is well. */
  List<String> integrityFaults() throws SQLException {
    List<String> faults = new ArrayList<>();
    for (String line : values("PRAGMA integrity_check(" + FAULTS_LISTED + ")", FAULTS_LISTED)) {
      if (!line.equals("ok")) {
        faults.add(line.replaceAll("\\s+", " ")
            .replace("*** in database main *** ", "")
            .strip());
      }
    }
    if (faults.isEmpty()) {
      for (String table : values("PRAGMA foreign_key_check", FAULTS_LISTED)) {
        faults.add("a row of table " + table + " refers to a row that is not there");
      }
    }
    return faults;
  }

  /** The first column of the first row as text; null when there is none or it is NULL. */
  String firstValue(String query) throws SQLException {
    List<String> values = values(query, 1);
    return values.isEmpty() ? null : values.get(0);
  }

  private List<String> values(String sql, int atMost) throws SQLException {
    List<String> values = new ArrayList<>();
    long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(TIME_LIMIT_SECONDS);
    try (Statement statement = connection.createStatement()) {
      var watch = watchdog.scheduleWithFixedDelay(
          () -> {
            try {
              if (System.nanoTime() - end > 0) {
                statement.cancel();
              }
              stopIfCancelled.run();
            } catch (Cancelled e) {
              cancel(statement);
            } catch (SQLException e) {
              // The statement has ended meanwhile: there is nothing left to cancel.
            }
          },
          200,
          200,
          TimeUnit.MILLISECONDS);
      try (ResultSet rows = statement.executeQuery(sql)) {
        while (values.size() < atMost && rows.next()) {
          values.add(rows.getString(1));
        }
      } finally {
        watch.cancel(false);
      }
    }
    stopIfCancelled.run();
    return values;
  }

  private static void cancel(Statement statement) {
    try {
      statement.cancel();
    } catch (SQLException e) {
      // as above
    }
  }

  @Override
  public void close() throws SQLException {
    watchdog.shutdownNow();
    connection.close();
  }
}
