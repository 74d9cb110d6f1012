package hardproof.server.storage;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import com.zaxxer.hikari.SQLExceptionOverride;
import com.zaxxer.hikari.pool.HikariPool;
import hardproof.core.wording.WrongValue;
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
import java.time.Instant;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Supplier;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.FlywayException;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.PreparedStatementCreator;
import org.springframework.jdbc.core.PreparedStatementSetter;
import org.springframework.jdbc.core.ResultSetExtractor;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.jdbc.support.JdbcTransactionManager;
import org.springframework.transaction.support.DefaultTransactionStatus;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Our SQLite file: one writer, a few readers that can't write. Reads see the newest committed
 * state; a write is durable when its transaction returns.
 */
public final class Database implements AutoCloseable {
  /** "HPRF": marks a SQLite file as ours, so that another program's is never migrated. */
  static final int APPLICATION_ID = 0x48505246;

  /**
   * The number of the newest migration. A file that says it is of this schema is not looked at by Flyway,
   * which alone would take longer than most commands do.
   */
  static final int SCHEMA = 9;

  private static final byte[] MAGIC = "SQLite format 3\0".getBytes(StandardCharsets.US_ASCII);

  private final HikariDataSource writer;
  private final HikariDataSource reader;
  private final JdbcClient writes;
  private final JdbcClient reads;
  private final TransactionTemplate transaction;
  private final TransactionTemplate snapshot;

  /** Whose turn it is to write: those who come first go first. */
  private final ReentrantLock turn = new ReentrantLock(true);

  private final Path file;
  private final FileHealth health;

  private Database(HikariDataSource writer, HikariDataSource reader, Path file, FileHealth health) {
    this.file = file;
    this.health = health;
    this.writer = writer;
    this.reader = reader;
    this.writes = JdbcClient.create(template(writer));
    this.reads = JdbcClient.create(template(reader));
    this.transaction = new TransactionTemplate(manager(writer));
    this.snapshot = new TransactionTemplate(manager(reader));
  }

  private static JdbcTemplate template(DataSource source) {
    JdbcTemplate template = new OwnRows(source);
    template.setExceptionTranslator(new SqliteErrors());
    return template;
  }

  /** What was written here was right when it was: a row that can't be read is no fault of whoever asks. */
  private static final class OwnRows extends JdbcTemplate {
    OwnRows(DataSource source) {
      super(source);
    }

    @Override
    public <T> T query(
        PreparedStatementCreator statement,
        PreparedStatementSetter setter,
        ResultSetExtractor<T> rows) {
      try {
        return super.query(statement, setter, rows);
      } catch (WrongValue e) {
        throw new UnreadableRow(e);
      }
    }
  }

  private static JdbcTransactionManager manager(DataSource source) {
    JdbcTransactionManager manager = new SqliteTransactions(source);
    manager.setExceptionTranslator(new SqliteErrors());
    return manager;
  }

  /** SQLite undoes a transaction by itself when the disk is full; then there is none to roll back. */
  private static final class SqliteTransactions extends JdbcTransactionManager {
    private static final long serialVersionUID = 1L;

    SqliteTransactions(DataSource source) {
      super(source);
    }

    @Override
    protected void doRollback(DefaultTransactionStatus status) {
      try {
        super.doRollback(status);
      } catch (DataAccessException e) {
        if (!String.valueOf(e.getMessage()).contains("no transaction is active")) {
          throw e;
        }
      }
    }
  }

  /** More than work goes on at once behind the answers, so that an answer never waits for a connection. */
  private static final int READERS = 10;

  /** How long another process that writes is waited for. */
  private static final Duration PATIENCE = Duration.ofSeconds(10);

  /**
   * Opens the file, makes it where there is none, and brings it to the newest schema.
   *
   * @throws NotOurDatabase when the file is something else, or comes from a newer version
   */
  public static Database open(Path file) throws IOException {
    return open(file, PATIENCE);
  }

  /**
   * As {@link #open(Path)}.
   *
   * @param patience how long another process that writes is waited for
   */
  public static Database open(Path file, Duration patience) throws IOException {
    Files.createDirectories(file.toAbsolutePath().getParent());
    if (!Files.exists(file)
        && file.getFileSystem().supportedFileAttributeViews().contains("posix")) {
      // SQLite gives the files beside it the same rights.
      Files.createFile(
          file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
    }
    String lostLog = FileHealth.lostLog(file);
    boolean current = refuseForeign(file) == SCHEMA;
    String url = "jdbc:sqlite:" + file.toAbsolutePath() + "?busy_timeout=" + patience.toMillis()
        + "&foreign_keys=true&cache_size=-65536";
    HikariDataSource writer = opened(
        file,
        () -> pool(
            "writer", url + "&journal_mode=WAL&synchronous=FULL&transaction_mode=IMMEDIATE", 1));
    try {
      if (!current) {
        Flyway.configure().dataSource(writer).load().migrate();
        mark(writer, file);
      }
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
    HikariDataSource reader = opened(file, () -> pool("reader", url + "&open_mode=1", READERS));
    Database database = new Database(writer, reader, file, new FileHealth(file, lostLog));
    // The first read makes the log, if there is none.
    database.changes();
    FileHealth.opened(file);
    return database;
  }

  /** What a pool says when it can't begin is wrapped in words of its own. */
  private static HikariDataSource opened(Path file, Supplier<HikariDataSource> pool)
      throws IOException {
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

  /** With less than this, a step to a newer schema fails for want of space, whatever else it says. */
  private static final long LEAST_SPACE = 1 << 20;

  private static void mark(HikariDataSource writer, Path file) throws IOException {
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
  private static int refuseForeign(Path file) throws IOException {
    if (!Files.exists(file) || Files.size(file) == 0) {
      return 0;
    }
    byte[] start;
    try (InputStream in = Files.newInputStream(file)) {
      start = in.readNBytes(MAGIC.length);
    }
    String advice = "Nothing was changed. Give another folder with --data, or move that file away.";
    if (!java.util.Arrays.equals(start, MAGIC)) {
      throw new NotOurDatabase(file + " is not a SQLite database. " + advice, null);
    }
    try (Connection c = DriverManager.getConnection("jdbc:sqlite:" + file + "?open_mode=1");
        Statement s = c.createStatement()) {
      int id = number(s, "PRAGMA application_id");
      int tables = number(s, "SELECT count(*) FROM sqlite_schema");
      if (id != APPLICATION_ID && tables > 0) {
        throw new NotOurDatabase(file + " is another program's database. " + advice, null);
      }
      int schema = number(s, "PRAGMA user_version");
      if (schema > SCHEMA) {
        throw new NotOurDatabase(
            file + " was written by a newer version of Hard Proof (schema " + schema
                + ", this one knows " + SCHEMA + "). Nothing was changed. Use that version, or"
                + " another --data folder.",
            null);
      }
      return schema;
    } catch (SQLException e) {
      if (SqliteErrors.full(e)) {
        throw new NoSpaceLeft(e);
      }
      throw new NotOurDatabase(
          file + " can't be read as a database (" + e.getMessage() + "). " + advice, e);
    }
  }

  private static int number(Statement s, String sql) throws SQLException {
    try (ResultSet rows = s.executeQuery(sql)) {
      return rows.next() ? rows.getInt(1) : 0;
    }
  }

  /** For statements that change something; inside {@link #write} also for reads that belong to it. */
  public JdbcClient writes() {
    return writes;
  }

  /** For statements that only read. */
  public JdbcClient reads() {
    return reads;
  }

  /** How long whoever has to give an answer waits to write. */
  static final Duration ANSWER_WAITS = Duration.ofMillis(900);

  /** Of those who have to give an answer, so many wait to write at once: the others are told right away. */
  private static final int WAIT_AT_ONCE = 20;

  private static final ThreadLocal<Boolean> IMPATIENT = ThreadLocal.withInitial(() -> false);

  /** Says of this thread whether it has to give an answer, and must not wait for others to write. */
  public static void impatient(boolean impatient) {
    if (impatient) {
      IMPATIENT.set(true);
    } else {
      IMPATIENT.remove();
    }
  }

  /** Whether this thread has to give an answer. */
  public static boolean impatient() {
    return IMPATIENT.get();
  }

  /**
   * Runs {@code work} in one transaction; joins the one that is open on this thread, if any.
   *
   * @throws Busy on a thread that has to give an answer, when others write for long
   */
  public <T> T write(Supplier<T> work) {
    return write(work, IMPATIENT.get() ? ANSWER_WAITS : Duration.ofHours(1));
  }

  /**
   * As {@link #write(Supplier)}.
   *
   * @param patience how long others in this process that write are waited for
   * @throws Busy when that was not long enough
   */
  public <T> T write(Supplier<T> work, Duration patience) {
    if (turn.isHeldByCurrentThread()) {
      return transaction.execute(status -> work.get());
    }
    take(patience);
    try {
      return transaction.execute(status -> work.get());
    } finally {
      turn.unlock();
    }
  }

  private void take(Duration patience) {
    boolean crowd = IMPATIENT.get() && turn.getQueueLength() >= WAIT_AT_ONCE;
    try {
      if (crowd || !turn.tryLock(patience.toNanos(), TimeUnit.NANOSECONDS)) {
        throw new Busy();
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Busy();
    }
  }

  /** Somebody else writes for long; nothing was changed. */
  public static final class Busy extends RuntimeException {
    private static final long serialVersionUID = 1L;

    Busy() {
      super("Facts are being brought in at this moment, and nothing else can be written meanwhile."
          + " Nothing was changed; try again when that is done.");
    }
  }

  /** As {@link #write}, for what makes an evaluation come out differently. */
  public <T> T change(Supplier<T> work) {
    return write(() -> {
      T result = work.get();
      writes.sql("UPDATE change_counter SET value = value + 1").update();
      return result;
    });
  }

  /** Runs {@code work} in one read transaction: everything it reads is of one state. */
  public <T> T read(Supplier<T> work) {
    return snapshot.execute(status -> work.get());
  }

  /** Work on a plain connection. */
  @FunctionalInterface
  public interface SqlWork<T> {
    T run(Connection connection) throws SQLException;
  }

  /** Runs {@code work} on the writer's connection, in the transaction that is open on this thread. */
  public <T> T onWriter(SqlWork<T> work) {
    return on(writer, work);
  }

  /** Runs {@code work} on a reader's connection, in the transaction that is open on this thread. */
  public <T> T onReader(SqlWork<T> work) {
    return on(reader, work);
  }

  private static <T> T on(DataSource source, SqlWork<T> work) {
    Connection connection = DataSourceUtils.getConnection(source);
    try {
      return work.run(connection);
    } catch (SQLException e) {
      throw new SqliteErrors().translate("plain SQL", null, e);
    } finally {
      DataSourceUtils.releaseConnection(connection, source);
    }
  }

  /**
   * The later of {@code clock} and the newest instant at which a fact was recorded: when a clock was set
   * back, what is new must still come after what was known.
   */
  public Instant notBefore(Instant clock) {
    long newest = reads
        .sql("SELECT coalesce(max(received_at), 0) FROM import_batch")
        .query(Long.class)
        .single();
    return newest > clock.toEpochMilli() ? Instant.ofEpochMilli(newest) : clock;
  }

  /** Grows with every {@link #change}, also those of other processes. */
  public long changes() {
    return reads.sql("SELECT value FROM change_counter").query(Long.class).single();
  }

  /** Whether the file is whole. */
  public FileHealth health() {
    return health;
  }

  @Override
  public void close() {
    reader.close();
    writer.close();
    FileHealth.closed(file);
  }

  /** The file is not one that this program may write to; the message says what to do. */
  public static final class NotOurDatabase extends IOException {
    private static final long serialVersionUID = 1L;

    NotOurDatabase(String message, Throwable cause) {
      super(message, cause);
    }
  }
}
