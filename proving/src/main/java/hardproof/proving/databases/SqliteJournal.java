package hardproof.proving.databases;

import hardproof.core.wording.Wording;
import hardproof.proving.databases.RestoredDatabase.QueryFailed;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import org.sqlite.SQLiteConfig;

/** What SQLite keeps beside a database: changes that are not yet in it, or what to take back. */
public final class SqliteJournal {
  /** Places of the header that tell how it is written and read: 2 for WAL (SQLite file format, 1.3.3). */
  private static final int WRITE_VERSION = 18;

  private SqliteJournal() {}

  /** Whether the database was last written with a write-ahead log. */
  public static boolean writesAhead(Path database) throws IOException {
    try (InputStream in = Files.newInputStream(database)) {
      byte[] head = in.readNBytes(WRITE_VERSION + 2);
      return head.length == WRITE_VERSION + 2
          && head[WRITE_VERSION] == 2
          && head[WRITE_VERSION + 1] == 2;
    }
  }

  /**
   * Has the engine take in what lies beside the database, as it would at its next start.
   *
   * @param log whether it is a write-ahead log
   * @return what came of it, for people
   */
  public static String takeIn(Path database, boolean log) throws QueryFailed {
    SQLiteConfig config = new SQLiteConfig();
    config.enableLoadExtension(false);
    try (Connection connection =
            config.createConnection("jdbc:sqlite:" + database.toAbsolutePath());
        Statement statement = connection.createStatement()) {
      SqliteDatabase.nothingAttached(connection);
      statement.execute("PRAGMA trusted_schema = OFF");
      statement.executeQuery("SELECT count(*) FROM sqlite_schema").close();
      return takenIn(log, statement);
    } catch (SQLException e) {
      throw new QueryFailed(e.getMessage(), e);
    }
  }

  private static String takenIn(boolean log, Statement statement) throws SQLException {
    if (!log) {
      return "its rollback journal was taken into account";
    }
    try (ResultSet result = statement.executeQuery("PRAGMA wal_checkpoint(PASSIVE)")) {
      long pages = result.next() ? result.getLong(3) : 0;
      return pages > 0
          ? "its -wal was taken in: " + Wording.count(pages, "page", "pages")
          : "the -wal beside it holds nothing that belongs to it: newest changes may be missing";
    }
  }
}
