package hardproof.proving.databases;

import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;

/** Ends statements that take too long, or whose drill was cancelled. */
final class StatementWatch implements AutoCloseable {
  private static final long LOOK_EVERY_MS = 200;

  private final Duration limit;
  private final Runnable stopIfCancelled;
  private final ScheduledExecutorService looking = Executors.newSingleThreadScheduledExecutor(r -> {
    Thread thread = new Thread(r, "statement-watch");
    thread.setDaemon(true);
    return thread;
  });

  /** Work with a statement. */
  interface Work {
    void run() throws SQLException;
  }

  StatementWatch(Duration limit, Runnable stopIfCancelled) {
    this.limit = limit;
    this.stopIfCancelled = stopIfCancelled;
  }

  /** Works; throws what {@code stopIfCancelled} throws when the drill was cancelled meanwhile. */
  void during(Statement statement, Work work) throws SQLException {
    long end = System.nanoTime() + limit.toNanos();
    ScheduledFuture<?> look = watching(statement, end);
    try {
      work.run();
    } catch (SQLException e) {
      stopIfCancelled.run();
      throw e;
    } finally {
      look.cancel(false);
    }
    stopIfCancelled.run();
  }

  private ScheduledFuture<?> watching(Statement statement, long end) {
    ScheduledFuture<?> look = looking.scheduleWithFixedDelay(
        () -> {
          boolean stop = System.nanoTime() - end > 0;
          try {
            stopIfCancelled.run();
          } catch (RuntimeException e) {
            stop = true;
          }
          if (stop) {
            cancel(statement);
          }
        },
        LOOK_EVERY_MS,
        LOOK_EVERY_MS,
        TimeUnit.MILLISECONDS);
    return look;
  }

  private static void cancel(Statement statement) {
    try {
      statement.cancel();
    } catch (SQLException e) {
      // The statement has ended meanwhile: there is nothing left to cancel.
    }
  }

  @Override
  public void close() {
    looking.shutdownNow();
  }
}
