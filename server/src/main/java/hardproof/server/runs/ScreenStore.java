package hardproof.server.runs;

import hardproof.proving.boot.Screen;
import hardproof.proving.boot.ScreenReader;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** What machines showed in drills, and the screens that people accepted. */
public final class ScreenStore {
  /** Number of the screen that a machine shows now. */
  public static final int LIVE = -1;

  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH).withZone(ZoneOffset.UTC);

  private final Database database;

  public ScreenStore(Database database) {
    this.database = database;
  }

  /**
   * A screen of a run.
   *
   * @param atMs of the machine's own time
   * @param screenClass what was concluded; null while it runs
   * @param lines null for a picture
   */
  public record RunScreen(
      int number,
      long atMs,
      @Nullable String screenClass,
      String engine,
      @Nullable List<String> lines,
      byte[] png) {}

  public void live(String run, Screen screen) {
    database.write(() -> {
      put(run, LIVE, screen, null, null);
      return null;
    });
  }

  /** Keeps screens of a run for good, oldest first, with what was concluded. */
  public void last(String run, List<Screen> screens, String screenClass, String engine) {
    database.change(() -> {
      database
          .writes()
          .sql("DELETE FROM run_screen WHERE run = :run AND number = :live")
          .param("run", run)
          .param("live", LIVE)
          .update();
      for (int i = 0; i < screens.size(); i++) {
        put(run, i, screens.get(i), i == screens.size() - 1 ? screenClass : null, engine);
      }
      return null;
    });
  }

  private void put(String run, int number, Screen screen, String screenClass, String engine) {
    database
        .writes()
        .sql("""
            INSERT INTO run_screen (run, number, at_ms, screen_class, engine, lines, png)
            VALUES (:run, :number, :at, :class, :engine, :lines, :png)
            ON CONFLICT (run, number) DO UPDATE SET at_ms = excluded.at_ms, lines = excluded.lines,
              png = excluded.png, screen_class = excluded.screen_class, engine = excluded.engine
            """)
        .param("run", run)
        .param("number", number)
        .param("at", screen.atMs())
        .param("class", screenClass)
        .param("engine", engine)
        .param("lines", CheckJson.writeLines(screen.lines()))
        .param("png", screen.png())
        .update();
  }

  /** The screens of a run, oldest first; the one shown now is the last. */
  public List<RunScreen> of(String run) {
    return database
        .reads()
        .sql("""
            SELECT number, at_ms, screen_class, engine, lines, png FROM run_screen
             WHERE run = :run ORDER BY number = -1, number
            """)
        .param("run", run)
        .query((r, n) -> screen(r))
        .list();
  }

  private static RunScreen screen(ResultSet r) throws SQLException {
    return new RunScreen(
        r.getInt(1),
        r.getLong(2),
        r.getString(3),
        r.getString(4),
        CheckJson.readLines(r.getString(5)),
        r.getBytes(6));
  }

  public Optional<byte[]> picture(String run, int number) {
    return database
        .reads()
        .sql("SELECT png FROM run_screen WHERE run = :run AND number = :number")
        .param("run", run)
        .param("number", number)
        .query((r, n) -> r.getBytes(1))
        .optional();
  }

  /** What was concluded of a run's last screen, by run; for lists. */
  public Optional<RunScreen> concluded(String run) {
    return of(run).stream().filter(s -> s.screenClass() != null).findFirst();
  }

  /** The screens that people accepted for a machine. */
  public List<ScreenReader.Accepted> acceptedFor(String resource) {
    return database
        .reads()
        .sql("""
            SELECT accepted_by, accepted_at, lines, png FROM accepted_screen
             WHERE resource = :resource ORDER BY id DESC LIMIT 20
            """)
        .param("resource", resource)
        .query((r, n) -> new ScreenReader.Accepted(
            r.getString(1) + " on " + DAY.format(Instant.ofEpochMilli(r.getLong(2))),
            CheckJson.readLines(r.getString(3)),
            r.getBytes(4)))
        .list();
  }

  /** Takes a run's last screen for the right one of its machine from now on. */
  public void accept(Run run, RunScreen screen, String by, String reason, Instant now) {
    database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO accepted_screen (resource, run, accepted_by, accepted_at, reason, lines, png)
            VALUES (:resource, :run, :by, :at, :reason, :lines, :png)
            """)
        .param("resource", run.resource())
        .param("run", run.id())
        .param("by", by)
        .param("at", now.toEpochMilli())
        .param("reason", reason)
        .param("lines", CheckJson.writeLines(screen.lines()))
        .param("png", screen.png())
        .update());
  }
}
