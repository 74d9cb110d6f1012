package hardproof.server.activity;

import hardproof.server.storage.Database;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Writes down what people do. Nothing in it is ever changed or removed: the database refuses. */
public final class Activity {
  private static final Logger LOG = LoggerFactory.getLogger(Activity.class);
  private static final int LONGEST = 4_000;
  private static final ExecutorService LATER = Executors.newSingleThreadExecutor(r -> {
    Thread thread = new Thread(r, "activity");
    thread.setDaemon(true);
    return thread;
  });

  private final Database database;
  private final Clock clock;

  public Activity(Database database, Clock clock) {
    this.database = database;
    this.clock = clock;
  }

  /**
   * One thing that was done.
   *
   * @param subject what it was done to: a key or a name
   * @param detail what was before and after, or what was asked; may be empty
   */
  public record Done(Instant at, String by, String what, String subject, String detail) {}

  /** Writes it down; in the transaction that is open, if one is. */
  public void record(String by, String what, String subject, String detail) {
    database.write(() -> database
        .writes()
        .sql("INSERT INTO activity (at, by, what, subject, detail)"
            + " VALUES (:at, :by, :what, :subject, :detail)")
        .param("at", clock.instant().toEpochMilli())
        .param("by", by)
        .param("what", what)
        .param("subject", cut(subject))
        .param("detail", cut(detail))
        .update());
  }

  /**
   * Writes it down soon: for what must not wait until others have written, such as a sign-in. When many
   * come at once the oldest are written first and the newest wait in memory.
   */
  public void recordSoon(String by, String what, String subject, String detail) {
    LATER.execute(() -> {
      try {
        record(by, what, subject, detail);
      } catch (RuntimeException e) {
        LOG.error("{} by {} could not be written down", what, by, e);
      }
    });
  }

  private static String cut(String text) {
    return text.length() > LONGEST ? text.substring(0, LONGEST - 1) + "…" : text;
  }

  /** The newest first. */
  public List<Done> newest(int atMost) {
    return database
        .reads()
        .sql("SELECT at, by, what, subject, detail FROM activity ORDER BY id DESC LIMIT :n")
        .param("n", atMost)
        .query((r, n) -> new Done(
            Instant.ofEpochMilli(r.getLong(1)),
            r.getString(2),
            r.getString(3),
            r.getString(4),
            r.getString(5)))
        .list();
  }
}
