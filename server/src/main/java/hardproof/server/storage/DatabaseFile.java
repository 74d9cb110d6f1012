package hardproof.server.storage;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import com.zaxxer.hikari.SQLExceptionOverride;
import com.zaxxer.hikari.pool.HikariPool;
import hardproof.server.storage.Database.NotOurDatabase;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.Arrays;
import java.util.function.Supplier;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;

/** Our SQLite file while it is opened: made where there is none, told from others, brought to the newest schema. */
final class DatabaseFile {
  /** "HPRF": marks a SQLite file as ours, so that another program's is never migrated. */
  static final int APPLICATION_ID = 0x48505246;

  /**
   * The number of the newest migration. A file that says it is of this schema is not looked at by Flyway,
   * which alone would take longer than most commands do.
   */
  static final int SCHEMA = 23;

  private static final byte[] MAGIC = "SQLite format 3\0".getBytes(StandardCharsets.US_ASCII);

  /** More than work goes on at once behind the answers, so that an answer never waits for a connection. */
  private static final int READERS = 10;

  /** With less than this, a step to a newer schema fails for want of space, whatever else it says. */
  private static final long LEAST_SPACE = 1 << 20;

  private static final String ADVICE =
      "Nothing was changed. Give another folder with --data, or move that file away.";

  private final Path file;
  private final String url;

  /**
   * @param patience how long another process that writes is waited for
   */
  DatabaseFile(Path file, Duration patience) throws IOException {
    this.file = file;
    this.url = "jdbc:sqlite:" + file.toAbsolutePath() + "?busy_timeout=" + patience.toMillis()
        + "&foreign_keys=true&cache_size=-65536";
    Files.createDirectories(file.toAbsolutePath().getParent());
    if (!Files.exists(file)
        && file.getFileSystem().supportedFileAttributeViews().contains("posix")) {
      // SQLite gives the files beside it the same rights.
      Files.createFile(
          file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    }
  }

  /**
   * Opens it to be written, in the newest schema.
   *
   * @throws NotOurDatabase when the file is something else, or comes from a newer version
   */
  HikariDataSource writer() throws IOException {
    boolean current = schema() == SCHEMA;
    HikariDataSource writer = opened(() ->
        pool("writer", url + "&journal_mode=WAL&synchronous=FULL&transaction_mode=IMMEDIATE", 1));
    try {
      bringUpToDate(current, writer);
      return writer;
    } catch (FlywayException e) {
      writer.close();
      if (SqliteErrors.full(e) || Files.getFileStore(file).getUsableSpace() < LEAST_SPACE) {
        throw new NoSpaceLeft(e);
      }
      throw new NotOurDatabase(
          file + " can't be brought to this version: "
              + e.getMessage().lines().findFirst().orElse("")
              + ". Nothing in it was changed by the step that failed. Use the version of Hard Proof"
              + " that wrote it, or another --data folder.",
          e);
    }
  }

  private void bringUpToDate(boolean current, HikariDataSource writer) throws IOException {
    if (!current) {
      Flyway.configure().dataSource(writer).load().migrate();
      mark(writer);
    }
  }

  HikariDataSource reader() throws IOException {
    return opened(() -> pool("reader", url + "&open_mode=1", READERS));
  }

  /** What a pool says when it can't begin is wrapped in words of its own. */
  private HikariDataSource opened(Supplier<HikariDataSource> pool) throws IOException {
    try {
      return pool.get();
    } catch (HikariPool.PoolInitializationException e) {
      if (e.getCause() instanceof SQLException sql) {
        RuntimeException translated = new SqliteErrors().translate("opening", null, sql);
        if (translated instanceof NoSpaceLeft || SqliteErrors.busy(sql)) {
          throw translated;
        }
        throw new IOException(file + " can't be opened: " + sql.getMessage(), e);
      }
      throw e;
    }
  }

  private void mark(HikariDataSource writer) throws IOException {
    try (Connection c = writer.getConnection();
        Statement s = c.createStatement()) {
      s.execute("PRAGMA application_id = " + APPLICATION_ID);
      s.execute("PRAGMA user_version = " + SCHEMA);
    } catch (SQLException e) {
      throw new IOException(file + " can't be marked as ours: " + e.getMessage(), e);
    }
  }

  private static HikariDataSource pool(String name, String url, int size) {
    HikariConfig config = new HikariConfig();
    config.setPoolName(name);
    config.setJdbcUrl(url);
    config.setMaximumPoolSize(size);
    config.setMinimumIdle(1);
    config.setMaxLifetime(0);
    // Whoever has something to write waits for an import to end, however long that takes.
    config.setConnectionTimeout(name.equals("writer") ? 3_600_000 : 30_000);
    config.setReadOnly(name.equals("reader"));
    config.setExceptionOverride(new GiveUpBusy());
    return new HikariDataSource(config);
  }

  /**
   * A transaction that could not begin because another process holds the file leaves the driver's
   * connection believing that it is in one, so that what follows would be written bit by bit. Such a
   * connection is given up for a new one.
   */
  private static final class GiveUpBusy implements SQLExceptionOverride {
    @java.lang.Override
    public Override adjudicate(SQLException e) {
      return SqliteErrors.busy(e) ? Override.MUST_EVICT : Override.CONTINUE_EVICT;
    }
  }

  /** The schema that the file says it is of; 0 when it says none. */
  private int schema() throws IOException {
    if (!Files.exists(file) || Files.size(file) == 0) {
      return 0;
    }
    if (!beginsAsSqlite()) {
      throw new NotOurDatabase(file + " is not a SQLite database. " + ADVICE, null);
    }
    try (Connection c = DriverManager.getConnection("jdbc:sqlite:" + file + "?open_mode=1");
        Statement s = c.createStatement()) {
      return schema(
          number(s, "PRAGMA application_id"),
          number(s, "SELECT count(*) FROM sqlite_schema"),
          number(s, "PRAGMA user_version"));
    } catch (SQLException e) {
      if (SqliteErrors.full(e)) {
        throw new NoSpaceLeft(e);
      }
      throw new NotOurDatabase(
          file + " can't be read as a database (" + e.getMessage() + "). " + ADVICE, e);
    }
  }

  private boolean beginsAsSqlite() throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return Arrays.equals(in.readNBytes(MAGIC.length), MAGIC);
    }
  }

  private int schema(int id, int tables, int schema) throws NotOurDatabase {
    if (id != APPLICATION_ID && tables > 0) {
      throw new NotOurDatabase(file + " is another program's database. " + ADVICE, null);
    }
    if (schema > SCHEMA) {
      throw new NotOurDatabase(
          file + " was written by a newer version of Hard Proof (schema " + schema
              + ", this one knows " + SCHEMA + "). Nothing was changed. Use that version, or"
              + " another --data folder.",
          null);
    }
    return schema;
  }

  private static int number(Statement s, String sql) throws SQLException {
    try (ResultSet rows = s.executeQuery(sql)) {
      return rows.next() ? rows.getInt(1) : 0;
    }
  }
}
