package hardproof.server.programmes;

import hardproof.core.drills.Method;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.DueStarts;
import hardproof.core.programmes.PointChoice;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import hardproof.server.facts.SelectorJson;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/** Drill programmes and what became of their starts. */
public final class ProgrammeStore {
  private final Database database;

  public ProgrammeStore(Database database) {
    this.database = database;
  }

  public List<Programme> all() {
    return database.reads().sql("""
            SELECT key, name, scope, rule, zone, begins_at, start_window_ms, method, handled_until,
                   point_choice, within_ms, copy_choice, store
              FROM programme ORDER BY name
            """).query((r, n) -> programme(r)).list();
  }

  private static Programme programme(ResultSet r) throws SQLException {
    return new Programme(
        r.getString(1),
        r.getString(2),
        SelectorJson.read(r.getString(3)),
        r.getString(4),
        r.getString(5),
        Instant.ofEpochMilli(r.getLong(6)),
        Duration.ofMillis(r.getLong(7)),
        r.getString(8) == null ? null : Coded.of(Method.class, r.getString(8)),
        point(r),
        new CopyChoice(Coded.of(CopyChoice.Way.class, r.getString(12)), r.getString(13)),
        Instant.ofEpochMilli(r.getLong(9)));
  }

  private static PointChoice point(ResultSet r) throws SQLException {
    long within = r.getLong(11);
    boolean aged = !r.wasNull();
    return new PointChoice(
        Coded.of(PointChoice.Way.class, r.getString(10)), aged ? Duration.ofMillis(within) : null);
  }

  /**
   * Adds a programme.
   *
   * @throws WrongValue when its rule or zone is none
   * @throws org.springframework.dao.DuplicateKeyException when the key is taken
   */
  public void add(Programme p) {
    p.recurrence();
    database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO programme
              (key, name, scope, rule, zone, begins_at, start_window_ms, method, handled_until,
               point_choice, within_ms, copy_choice, store)
            VALUES (:key, :name, :scope, :rule, :zone, :begins, :window, :method, :handled,
               :point, :within, :copy, :store)
            """)
        .param("key", p.key())
        .param("name", p.name())
        .param("scope", SelectorJson.write(p.scope()))
        .param("rule", p.rule())
        .param("zone", p.zone())
        .param("begins", p.begins().toEpochMilli())
        .param("window", p.startWindow().toMillis())
        .param("method", p.method() == null ? null : p.method().code())
        .param("handled", p.handledUntil().toEpochMilli())
        .param("point", p.point().way().code())
        .param("within", p.point().within() == null ? null : p.point().within().toMillis())
        .param("copy", p.copy().way().code())
        .param("store", p.copy().store())
        .update());
  }

  /**
   * Ends a programme; its runs stay.
   *
   * @return false when there is none with that key
   */
  public boolean remove(String key) {
    return database.write(() -> database
            .writes()
            .sql("DELETE FROM programme WHERE key = :key")
            .param("key", key)
            .update())
        == 1;
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
    handledUntil(programme, decision);
  }

  private void handledUntil(String programme, DueStarts.Decision decision) {
    database
        .writes()
        .sql("UPDATE programme SET handled_until = :due WHERE key = :p AND handled_until < :due")
        .param("due", decision.due().toEpochMilli())
        .param("p", programme)
        .update();
  }

  /** What became of a due start. */
  public record Start(
      String programme, Instant due, boolean started, int runs, String reason, boolean drawn) {}

  /** The newest starts, newest first. */
  public List<Start> starts(int atMost) {
    return database
        .reads()
        .sql("""
            SELECT s.programme, s.due_at, s.started, s.runs, s.reason, d.programme IS NOT NULL
              FROM programme_start s LEFT JOIN programme_draw d USING (programme, due_at)
             ORDER BY s.due_at DESC LIMIT :n
            """)
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
