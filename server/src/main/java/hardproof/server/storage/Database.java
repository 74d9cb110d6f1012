package hardproof.server.storage;

import com.zaxxer.hikari.HikariDataSource;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Supplier;
import javax.sql.DataSource;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Our SQLite file: one writer, a few readers that can't write. Reads see the newest committed
 * state; a write is durable when its transaction returns.
 */
public final class Database implements AutoCloseable {
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
  private volatile Runnable last = () -> {};

  private Database(HikariDataSource writer, HikariDataSource reader, Path file, FileHealth health) {
    this.file = file;
    this.health = health;
    this.writer = writer;
    this.reader = reader;
    this.writes = SqliteAccess.client(writer);
    this.reads = SqliteAccess.client(reader);
    this.transaction = SqliteAccess.transactions(writer);
    this.snapshot = SqliteAccess.transactions(reader);
  }

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
    DatabaseFile opening = new DatabaseFile(file, patience);
    String lostLog = FileHealth.lostLog(file);
    HikariDataSource writer = opening.writer();
    Database database = new Database(writer, opening.reader(), file, new FileHealth(file, lostLog));
    // The first read makes the log, if there is none.
    database.changes();
    FileHealth.opened(file);
    return database;
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
      return transaction.execute(status -> {
        T result = work.get();
        last.run();
        return result;
      });
    } finally {
      turn.unlock();
    }
  }

  /** What is done at the end of every transaction that writes, as part of it. */
  public void beforeCommit(Runnable work) {
    last = work;
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
