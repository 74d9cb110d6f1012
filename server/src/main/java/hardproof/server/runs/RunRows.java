package hardproof.server.runs;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Coded;
import hardproof.proving.drills.DrillResult.Awaits;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** The rows of drill runs, read. */
final class RunRows {
  private static final String SELECT = """
      SELECT id, resource, point, store, method, checks_asked, programme, requested_by, reason,
             queued_at, started_at, ended_at, restore, checks, cleanup, hold_ms, hold_until, reaches,
             bytes, reading_ms, blamed_point, blamed_store, sentence, options, awaits, await_until,
             worked_until, newest_data, rehearsal
        FROM drill_run
      """;

  private final Database database;

  RunRows(Database database) {
    this.database = database;
  }

  /**
   * Runs without their steps.
   *
   * @param which what follows the columns and the table, with a question mark for each value
   */
  List<Run> list(String which, Object... values) {
    return database
        .reads()
        .sql(SELECT + which)
        .params(values)
        .query((r, n) -> run(r))
        .list();
  }

  /** Every drill that had ended by {@code asAt}, as it stood then. */
  List<DrillFact> facts(Instant asAt) {
    Map<String, CleanupState> later = cleanupsChangedAfter(asAt);
    return list(" WHERE ended_at <= ? ORDER BY ended_at, id", asAt.toEpochMilli()).stream()
        .map(Run::fact)
        .map(f -> later.containsKey(f.run()) ? f.withCleanup(later.get(f.run())) : f)
        .toList();
  }

  /** What the clean-up of runs stood at then, of those where it has changed since. */
  private Map<String, CleanupState> cleanupsChangedAfter(Instant asAt) {
    Map<String, CleanupState> states = new HashMap<>();
    database.reads().sql("""
            SELECT DISTINCT c.run, (SELECT state FROM cleanup_change b
                             WHERE b.run = c.run AND b.at <= :as_at ORDER BY b.at DESC, b.rowid DESC LIMIT 1)
              FROM cleanup_change c JOIN drill_run d ON d.id = c.run
             WHERE c.at > :as_at AND d.ended_at <= :as_at
            """).param("as_at", asAt.toEpochMilli()).query(r -> {
      String before = r.getString(2);
      states.put(
          r.getString(1),
          before == null ? CleanupState.NOT_DUE : Coded.of(CleanupState.class, before));
    });
    return states;
  }

  private static Run run(ResultSet r) throws SQLException {
    return new Run(
        r.getString("id"),
        new DrillFact.Of(r.getString("resource"), r.getString("point"), r.getString("store")),
        plan(r),
        new Run.Order(
            r.getString("programme"),
            r.getString("requested_by"),
            r.getString("reason"),
            r.getString("rehearsal")),
        times(r),
        new Run.Waiting(awaits(r.getString("awaits")), Columns.instant(r, "await_until")),
        answers(r),
        new Run.Hold(Duration.ofMillis(r.getLong("hold_ms")), Columns.instant(r, "hold_until")),
        reading(r),
        new DrillFact.Blame(r.getString("blamed_point"), r.getString("blamed_store")),
        r.getString("sentence"),
        List.of());
  }

  private static Run.Plan plan(ResultSet r) throws SQLException {
    return new Run.Plan(
        Coded.of(Method.class, r.getString("method")),
        CheckJson.read(r.getString("checks_asked")),
        CheckJson.readOptions(r.getString("options")),
        Coded.of(Rung.class, r.getString("reaches")));
  }

  private static Run.Times times(ResultSet r) throws SQLException {
    return new Run.Times(
        Columns.instant(r, "queued_at"),
        Columns.instant(r, "started_at"),
        Columns.instant(r, "worked_until"),
        Columns.instant(r, "ended_at"));
  }

  private static DrillFact.Answers answers(ResultSet r) throws SQLException {
    return new DrillFact.Answers(
        Coded.of(RestoreState.class, r.getString("restore")),
        Coded.of(ChecksState.class, r.getString("checks")),
        Coded.of(CleanupState.class, r.getString("cleanup")));
  }

  private static Run.Reading reading(ResultSet r) throws SQLException {
    return new Run.Reading(
        r.getLong("bytes"), Columns.duration(r, "reading_ms"), Columns.instant(r, "newest_data"));
  }

  private static Awaits awaits(String code) {
    return code == null ? Awaits.NOBODY : Awaits.valueOf(code.toUpperCase(java.util.Locale.ROOT));
  }
}
