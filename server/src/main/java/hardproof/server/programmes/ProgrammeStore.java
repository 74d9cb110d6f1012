package hardproof.server.programmes;

import hardproof.core.programmes.DueStarts;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** Drill programmes as they stood at any instant, and what became of their starts. */
public final class ProgrammeStore {
  private static final String SELECT = """
      SELECT v.key, v.recorded_at, v.changed_by, v.body, coalesce(h.until, v.recorded_at)
        FROM programme_version v LEFT JOIN programme_handled h USING (key)
      """;

  private final Database database;

  public ProgrammeStore(Database database) {
    this.database = database;
  }

  /** Those in force, by name. */
  public List<Programme> all() {
    return database
        .reads()
        .sql(SELECT + " WHERE v.replaced_at IS NULL ORDER BY v.body ->> 'name', v.key")
        .query((r, n) -> programme(r))
        .list();
  }

  /** Those that were in force at an instant, by name. */
  public List<Programme> at(Instant instant) {
    return database
        .reads()
        .sql(SELECT + """
             WHERE v.recorded_at <= :at AND (v.replaced_at IS NULL OR v.replaced_at > :at)
             ORDER BY v.body ->> 'name', v.key
            """)
        .param("at", instant.toEpochMilli())
        .query((r, n) -> programme(r))
        .list();
  }

  /** The one in force; empty when there is none. */
  public Optional<Programme> find(String key) {
    return database
        .reads()
        .sql(SELECT + " WHERE v.replaced_at IS NULL AND v.key = :key")
        .param("key", key)
        .query((r, n) -> programme(r))
        .optional();
  }

  private static Programme programme(ResultSet r) throws SQLException {
    return ProgrammeJson.read(
        r.getString(1),
        r.getString(4),
        new Programme.Version(
            Instant.ofEpochMilli(r.getLong(2)),
            r.getString(3),
            Instant.ofEpochMilli(r.getLong(5))));
  }

  /**
   * Adds a programme.
   *
   * @throws hardproof.core.wording.WrongValue when its rule or zone is none
   * @throws org.springframework.dao.DuplicateKeyException when the key is taken
   */
  public void add(Programme p) {
    p.terms();
    database.write(() -> {
      insert(p, p.version().recordedAt());
      return database
          .writes()
          .sql("INSERT INTO programme_handled VALUES (:key, :until)"
              + " ON CONFLICT (key) DO UPDATE SET until = excluded.until")
          .param("key", p.key())
          .param("until", p.version().handledUntil().toEpochMilli())
          .update();
    });
  }

  private void insert(Programme p, Instant now) {
    database
        .writes()
        .sql("INSERT INTO programme_version VALUES (:key, :now, NULL, :by, :body)")
        .param("key", p.key())
        .param("now", now.toEpochMilli())
        .param("by", p.version().changedBy())
        .param("body", ProgrammeJson.write(p))
        .update();
  }

  /**
   * Puts another state of a programme in force.
   *
   * @param seen when the state that the editor saw was recorded
   * @return false, with nothing changed, when that state is not in force any more
   * @throws hardproof.core.wording.WrongValue when its rule or zone is none
   */
  public boolean change(Programme p, Instant seen, Instant now) {
    p.terms();
    Instant after = seen.isBefore(now) ? now : seen.plusMillis(1);
    return database.write(() -> {
      boolean first = end(p.key(), seen, after);
      if (first) {
        insert(p, after);
      }
      return first;
    });
  }

  private boolean end(String key, Instant seen, Instant now) {
    int ended = database
        .writes()
        .sql("""
            UPDATE programme_version SET replaced_at = :now
             WHERE key = :key AND recorded_at = :seen AND replaced_at IS NULL
            """)
        .param("now", now.toEpochMilli())
        .param("key", key)
        .param("seen", seen.toEpochMilli())
        .update();
    // What it could not drill as it was says nothing of what it will be.
    database
        .writes()
        .sql("DELETE FROM refused_drill WHERE programme = :p AND :ended = 1")
        .param("p", key)
        .param("ended", ended)
        .update();
    return ended == 1;
  }

  /**
   * Ends a programme; its runs stay.
   *
   * @return false when there is none with that key
   */
  public boolean remove(String key, Instant now) {
    return database.write(() -> find(key)
        .map(p -> end(
            key,
            p.version().recordedAt(),
            now.isAfter(p.version().recordedAt()) ? now : p.version().recordedAt()))
        .orElse(false));
  }

  /** Writes down what became of a due start, and that it has been handled. */
  public void handled(String programme, DueStarts.Decision decision, int runs, String reason) {
    database
        .writes()
        .sql("INSERT INTO programme_start VALUES (:p, :due, :started, :runs, :reason)")
        .param("p", programme)
        .param("due", decision.due().toEpochMilli())
        .param("started", decision.start() ? 1 : 0)
        .param("runs", runs)
        .param("reason", reason)
        .update();
    database
        .writes()
        .sql("UPDATE programme_handled SET until = :due WHERE key = :p AND until < :due")
        .param("due", decision.due().toEpochMilli())
        .param("p", programme)
        .update();
  }

  /** What became of a due start. */
  public record Start(
      String programme, Instant due, boolean started, int runs, String reason, boolean drawn) {}

  /** The newest starts, newest first. */
  public List<Start> starts(int atMost) {
    return starts(Instant.ofEpochMilli(Long.MAX_VALUE), atMost);
  }

  /** The newest starts that were due by an instant, newest first. */
  public List<Start> starts(Instant by, int atMost) {
    return database
        .reads()
        .sql("""
            SELECT s.programme, s.due_at, s.started, s.runs, s.reason, d.programme IS NOT NULL
              FROM programme_start s LEFT JOIN programme_draw d USING (programme, due_at)
             WHERE s.due_at <= :by ORDER BY s.due_at DESC LIMIT :n
            """)
        .param("by", by.toEpochMilli())
        .param("n", atMost)
        .query((r, n) -> start(r))
        .list();
  }

  private static ProgrammeStore.Start start(ResultSet r) throws SQLException {
    return new Start(
        r.getString(1),
        Instant.ofEpochMilli(r.getLong(2)),
        r.getInt(3) == 1,
        r.getInt(4),
        r.getString(5),
        r.getInt(6) == 1);
  }
}
