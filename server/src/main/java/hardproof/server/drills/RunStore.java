package hardproof.server.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.drills.Transitions;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Coded;
import hardproof.proving.drills.DrillResult;
import hardproof.proving.drills.SqlCheck;
import hardproof.proving.drills.StepState;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.jdbc.core.simple.JdbcClient.StatementSpec;
import tools.jackson.databind.json.JsonMapper;

/** Drill runs in the database. Every change of an answer goes through the table of transitions. */
public final class RunStore {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final String SELECT = """
      SELECT id, resource, point, store, method, checks_asked, programme, requested_by, reason,
             queued_at, started_at, ended_at, restore, checks, cleanup, hold_ms, hold_until, reaches,
             bytes, reading_ms, blamed_point, blamed_store, sentence
        FROM drill_run
      """;

  private final Database database;

  public RunStore(Database database) {
    this.database = database;
  }

  private StatementSpec write(String sql) {
    return database.writes().sql(sql);
  }

  /** Puts a run into the queue and gives its id. */
  public String queue(
      RunOrder order, Rung reaches, String programme, String requestedBy, Instant now) {
    String id = UUID.randomUUID().toString();
    database.write(() -> write("""
            INSERT INTO drill_run (id, resource, point, store, method, checks_asked, programme,
                                   requested_by, reason, queued_at, restore, checks, cleanup, hold_ms, reaches)
            VALUES (:id, :resource, :point, :store, :method, :checks_asked, :programme,
                    :requested_by, :reason, :queued_at, 'waiting', 'waiting', 'not-due', :hold_ms, :reaches)
            """)
        .param("id", id)
        .param("resource", order.resource())
        .param("point", order.point())
        .param("store", order.store())
        .param("method", order.method().code())
        .param("checks_asked", JSON.writeValueAsString(order.checks()))
        .param("programme", programme)
        .param("requested_by", requestedBy)
        .param("reason", order.reason())
        .param("queued_at", now.toEpochMilli())
        .param("hold_ms", order.hold().toMillis())
        .param("reaches", reaches.code())
        .update());
    return id;
  }

  /** Takes the oldest run that waits and marks it begun; nobody else gets it. */
  public Optional<Run> claim(Instant now) {
    return database
        .write(() ->
            write("""
                UPDATE drill_run SET started_at = :now
                 WHERE id = (SELECT id FROM drill_run
                              WHERE restore = 'waiting' AND started_at IS NULL
                              ORDER BY queued_at, rowid LIMIT 1)
                RETURNING id
                """).param("now", now.toEpochMilli()).query(String.class).optional())
        .map(id -> find(id).orElseThrow());
  }

  public Optional<Run> find(String id) {
    return database
        .reads()
        .sql(SELECT + " WHERE id = :id")
        .param("id", id)
        .query((r, n) -> run(r, steps(id)))
        .optional();
  }

  /** Waiting and running ones, oldest first, with their steps. */
  public List<Run> underWay() {
    return database
        .reads()
        .sql(SELECT + " WHERE ended_at IS NULL ORDER BY queued_at, rowid")
        .query((r, n) -> run(r, steps(r.getString("id"))))
        .list();
  }

  /** Ended ones without their steps, newest first. */
  public List<Run> ended(int atMost) {
    return database
        .reads()
        .sql(SELECT + " WHERE ended_at IS NOT NULL ORDER BY ended_at DESC LIMIT :n")
        .param("n", atMost)
        .query((r, n) -> run(r, List.of()))
        .list();
  }

  /** Every drill that had ended by {@code asAt}, as the evaluation sees it. */
  public List<DrillFact> facts(Instant asAt) {
    return database
        .reads()
        .sql(SELECT + " WHERE ended_at <= :as_at ORDER BY ended_at, id")
        .param("as_at", asAt.toEpochMilli())
        .query((r, n) -> run(r, List.of()).fact())
        .list();
  }

  private List<Run.Step> steps(String run) {
    return database
        .reads()
        .sql("""
            SELECT number, name, state, started_at, ended_at, done_bytes, total_bytes, message
              FROM drill_step WHERE run = :run ORDER BY number
            """)
        .param("run", run)
        .query((r, n) -> new Run.Step(
            r.getInt(1),
            r.getString(2),
            Coded.of(StepState.class, r.getString(3)),
            instant(r, "started_at"),
            instant(r, "ended_at"),
            r.getLong(6),
            r.getLong(7),
            r.getString(8)))
        .list();
  }

  private static Instant instant(ResultSet r, String column) throws SQLException {
    long value = r.getLong(column);
    return r.wasNull() ? null : Instant.ofEpochMilli(value);
  }

  private static Run run(ResultSet r, List<Run.Step> steps) throws SQLException {
    long reading = r.getLong("reading_ms");
    Duration took = r.wasNull() ? null : Duration.ofMillis(reading);
    return new Run(
        r.getString("id"),
        r.getString("resource"),
        r.getString("point"),
        r.getString("store"),
        Coded.of(Method.class, r.getString("method")),
        Arrays.asList(JSON.readValue(r.getString("checks_asked"), SqlCheck[].class)),
        r.getString("programme"),
        r.getString("requested_by"),
        r.getString("reason"),
        instant(r, "queued_at"),
        instant(r, "started_at"),
        instant(r, "ended_at"),
        Coded.of(RestoreState.class, r.getString("restore")),
        Coded.of(ChecksState.class, r.getString("checks")),
        Coded.of(CleanupState.class, r.getString("cleanup")),
        Duration.ofMillis(r.getLong("hold_ms")),
        instant(r, "hold_until"),
        Coded.of(Rung.class, r.getString("reaches")),
        r.getLong("bytes"),
        took,
        r.getString("blamed_point"),
        r.getString("blamed_store"),
        r.getString("sentence"),
        steps);
  }

  /**
   * Changes one answer of a run, if the table allows it and nobody was faster.
   *
   * @throws Transitions.ImpossibleTransition when the table does not allow it
   */
  void restore(String id, RestoreState to) {
    change(id, "restore", to, from -> Transitions.check(Coded.of(RestoreState.class, from), to));
  }

  void checks(String id, ChecksState to) {
    change(id, "checks", to, from -> Transitions.check(Coded.of(ChecksState.class, from), to));
  }

  void cleanup(String id, CleanupState to) {
    change(id, "cleanup", to, from -> Transitions.check(Coded.of(CleanupState.class, from), to));
  }

  private void change(
      String id, String column, Coded to, java.util.function.Consumer<String> check) {
    database.change(() -> {
      String from = database
          .writes()
          .sql("SELECT " + column + " FROM drill_run WHERE id = :id")
          .param("id", id)
          .query(String.class)
          .single();
      check.accept(from);
      return write(
              "UPDATE drill_run SET " + column + " = :to WHERE id = :id AND " + column + " = :from")
          .param("to", to.code())
          .param("id", id)
          .param("from", from)
          .update();
    });
  }

  void plan(String id, List<String> names) {
    database.write(() -> {
      for (int i = 0; i < names.size(); i++) {
        write(
                "INSERT INTO drill_step (run, number, name, state) VALUES (:run, :number, :name, 'waiting')")
            .param("run", id)
            .param("number", i)
            .param("name", names.get(i))
            .update();
      }
      return null;
    });
  }

  void stepStarted(String id, int number, long totalBytes, Instant now) {
    database.write(() -> write("""
            UPDATE drill_step SET state = 'running', started_at = :now, total_bytes = :total
             WHERE run = :run AND number = :number
            """)
        .param("now", now.toEpochMilli())
        .param("total", totalBytes)
        .param("run", id)
        .param("number", number)
        .update());
  }

  void stepProgressed(String id, int number, long doneBytes) {
    write("UPDATE drill_step SET done_bytes = :done WHERE run = :run AND number = :number")
        .param("done", doneBytes)
        .param("run", id)
        .param("number", number)
        .update();
  }

  void stepEnded(
      String id, int number, StepState state, long doneBytes, String message, Instant now) {
    database.write(() -> write("""
            UPDATE drill_step SET state = :state, ended_at = :now, done_bytes = :done, message = :message
             WHERE run = :run AND number = :number
            """)
        .param("state", state.code())
        .param("now", now.toEpochMilli())
        .param("done", doneBytes)
        .param("message", message)
        .param("run", id)
        .param("number", number)
        .update());
  }

  /** Writes what a run came to; only now it counts in an evaluation. */
  void end(String id, DrillResult result, Instant now) {
    database.change(() -> write("""
            UPDATE drill_run SET ended_at = :now, reaches = :reaches, bytes = :bytes, reading_ms = :reading,
                   blamed_point = :blamed_point, blamed_store = :blamed_store, sentence = :sentence,
                   hold_until = CASE WHEN cleanup = 'holding' THEN :now + hold_ms END
             WHERE id = :id AND ended_at IS NULL
            """)
        .param("now", now.toEpochMilli())
        .param("reaches", result.reaches().code())
        .param("bytes", result.bytes())
        .param("reading", result.reading().toMillis())
        .param("blamed_point", result.blamedPoint())
        .param("blamed_store", result.blamedStore())
        .param("sentence", result.sentence())
        .param("id", id)
        .update());
  }

  /** Ends a run that lost its process, or that was cancelled before it began. */
  void interrupt(Run run, String sentence, Instant now) {
    if (!run.restore().isFinal()) {
      restore(run.id(), RestoreState.INTERRUPTED);
    }
    if (run.checks() == ChecksState.WAITING) {
      checks(run.id(), ChecksState.NOT_ASKED);
    }
    database.change(() -> {
      write("""
              UPDATE drill_step SET state = CASE state WHEN 'running' THEN 'failed' ELSE 'skipped' END,
                     message = CASE state WHEN 'running' THEN :sentence ELSE '' END, ended_at = :now
               WHERE run = :run AND state IN ('running', 'waiting')
              """)
          .param("sentence", sentence)
          .param("now", now.toEpochMilli())
          .param("run", run.id())
          .update();
      return write(
              "UPDATE drill_run SET ended_at = :now, sentence = :sentence WHERE id = :id AND ended_at IS NULL")
          .param("now", now.toEpochMilli())
          .param("sentence", sentence)
          .param("id", run.id())
          .update();
    });
  }

  /**
   * Asks a run to end.
   *
   * @return false when it has ended already or does not exist
   */
  public boolean askToCancel(String id) {
    return database.write(
            () -> write("UPDATE drill_run SET cancel_asked = 1 WHERE id = :id AND ended_at IS NULL")
                .param("id", id)
                .update())
        == 1;
  }

  boolean cancelAsked(String id) {
    return database
            .reads()
            .sql("SELECT cancel_asked FROM drill_run WHERE id = :id")
            .param("id", id)
            .query(Integer.class)
            .single()
        == 1;
  }

  /** Ended runs whose restored data is still there: held too long, or left by a failed clean-up. */
  List<Run> toCleanUp(Instant now) {
    return database
        .reads()
        .sql(SELECT + " WHERE ended_at IS NOT NULL AND (cleanup = 'failed'"
            + " OR (cleanup = 'holding' AND hold_until <= :now)) ORDER BY ended_at")
        .param("now", now.toEpochMilli())
        .query((r, n) -> run(r, List.of()))
        .list();
  }
}
