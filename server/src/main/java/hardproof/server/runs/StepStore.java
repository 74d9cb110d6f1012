package hardproof.server.runs;

import hardproof.core.wording.Coded;
import hardproof.proving.drills.StepState;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient.StatementSpec;

/** The steps of drill runs in the database: planned at first, then begun and ended one by one. */
public final class StepStore {
  private final Database database;

  public StepStore(Database database) {
    this.database = database;
  }

  private StatementSpec write(String sql) {
    return database.writes().sql(sql);
  }

  /** The steps of a run in their order. */
  public List<Run.Step> of(String run) {
    return database.reads().sql("""
            SELECT number, name, state, started_at, ended_at, done_bytes, total_bytes, message
              FROM drill_step WHERE run = :run ORDER BY number
            """).param("run", run).query((r, n) -> step(r)).list();
  }

  private static Run.Step step(ResultSet r) throws SQLException {
    return new Run.Step(
        r.getInt(1),
        r.getString(2),
        Coded.of(StepState.class, r.getString(3)),
        Columns.instant(r, 4),
        Columns.instant(r, 5),
        r.getLong(6),
        r.getLong(7),
        r.getString(8));
  }

  /** Writes down the steps that a run is going to take. */
  public void plan(String run, List<String> names) {
    database.write(() -> {
      for (int i = 0; i < names.size(); i++) {
        write(
                "INSERT INTO drill_step (run, number, name, state) VALUES (:run, :number, :name, 'waiting')")
            .param("run", run)
            .param("number", i)
            .param("name", names.get(i))
            .update();
      }
      return null;
    });
  }

  /** {@code totalBytes} are to be read; 0 when that is not known. */
  public void started(String run, int number, long totalBytes, Instant now) {
    database.write(() -> write("""
            UPDATE drill_step SET state = 'running', started_at = :now, total_bytes = :total
             WHERE run = :run AND number = :number
            """)
        .param("now", now.toEpochMilli())
        .param("total", totalBytes)
        .param("run", run)
        .param("number", number)
        .update());
  }

  public void progressed(String run, int number, long doneBytes) {
    write("UPDATE drill_step SET done_bytes = :done WHERE run = :run AND number = :number")
        .param("done", doneBytes)
        .param("run", run)
        .param("number", number)
        .update();
  }

  public void ended(
      String run, int number, StepState state, long doneBytes, String message, Instant now) {
    database.write(() -> write("""
            UPDATE drill_step SET state = :state, ended_at = :now, done_bytes = :done, message = :message
             WHERE run = :run AND number = :number
            """)
        .param("state", state.code())
        .param("now", now.toEpochMilli())
        .param("done", doneBytes)
        .param("message", message)
        .param("run", run)
        .param("number", number)
        .update());
  }

  /** What a run leaves undone: the step it was at has failed, the rest are skipped. */
  public void leave(String run, String sentence, Instant now) {
    write("""
            UPDATE drill_step SET state = CASE state WHEN 'running' THEN 'failed' ELSE 'skipped' END,
                   message = CASE state WHEN 'running' THEN :sentence ELSE '' END, ended_at = :now
             WHERE run = :run AND state IN ('running', 'waiting')
            """)
        .param("sentence", sentence)
        .param("now", now.toEpochMilli())
        .param("run", run)
        .update();
  }
}
