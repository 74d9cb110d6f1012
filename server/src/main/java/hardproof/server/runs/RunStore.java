package hardproof.server.runs;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RestoreState;
import hardproof.core.drills.Transitions;
import hardproof.core.ladder.Rung;
import hardproof.proving.drills.DrillResult;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.jdbc.core.simple.JdbcClient.StatementSpec;

/** Drill runs in the database. Every change of an answer goes through the table of transitions. */
public final class RunStore {
  private final Database database;
  private final StepStore steps;
  private final RunRows rows;
  private final RunAnswers answers;

  public RunStore(Database database) {
    this.database = database;
    this.steps = new StepStore(database);
    this.rows = new RunRows(database);
    this.answers = new RunAnswers(database);
  }

  public StepStore steps() {
    return steps;
  }

  private StatementSpec write(String sql) {
    return database.writes().sql(sql);
  }

  /** Puts a run into the queue and gives its id. */
  public String queue(
      RunOrder order,
      Rung reaches,
      RunNeeds needs,
      String programme,
      String requestedBy,
      Instant now) {
    String id = UUID.randomUUID().toString();
    database.write(() -> write("""
            INSERT INTO drill_run (id, resource, point, store, method, checks_asked, programme,
                                   requested_by, reason, queued_at, restore, checks, cleanup, hold_ms, reaches,
                                   options, needed_by, not_after, takes_ms, read_bytes, space_bytes, cost, attempt)
            VALUES (:id, :resource, :point, :store, :method, :checks_asked, :programme,
                    :requested_by, :reason, :queued_at, 'waiting', 'waiting', 'not-due', :hold_ms, :reaches,
                    :options, :needed_by, :not_after, :takes, :read_bytes, :space_bytes, :cost, :attempt)
            """)
        .param("id", id)
        .param("resource", order.resource())
        .param("point", order.point())
        .param("store", order.store())
        .param("method", order.method().code())
        .param("checks_asked", CheckJson.write(order.checks()))
        .param("options", CheckJson.write(order.options()))
        .param("programme", programme)
        .param("requested_by", requestedBy)
        .param("reason", order.reason())
        .param("queued_at", now.toEpochMilli())
        .param("hold_ms", order.hold().toMillis())
        .param("reaches", reaches.code())
        .param("needed_by", Columns.millis(needs.neededBy()))
        .param("not_after", Columns.millis(needs.notAfter()))
        .param("takes", needs.takes() == null ? null : needs.takes().toMillis())
        .param("read_bytes", needs.readBytes())
        .param("space_bytes", needs.spaceBytes())
        .param("cost", needs.cost())
        .param("attempt", needs.attempt())
        .update());
    return id;
  }

  /**
   * Marks a run that waits as begun.
   *
   * @return empty when it does not wait any more: nobody else gets what one has taken
   */
  public Optional<Run> claim(String id, Instant now) {
    return database
        .write(() -> write("""
                UPDATE drill_run SET started_at = :now
                 WHERE id = :id AND restore = 'waiting' AND started_at IS NULL AND ended_at IS NULL
                RETURNING id
                """)
            .param("now", now.toEpochMilli())
            .param("id", id)
            .query(String.class)
            .optional())
        .map(claimed -> find(claimed).orElseThrow());
  }

  /**
   * Changes one answer of a run, if the table allows it and nobody was faster.
   *
   * @throws Transitions.ImpossibleTransition when the table does not allow it
   */
  public void restore(String id, RestoreState to) {
    answers.restore(id, to);
  }

  public void checks(String id, ChecksState to) {
    answers.checks(id, to);
  }

  /**
   * As {@link #restore}.
   *
   * @param now when it changed
   */
  public void cleanup(String id, CleanupState to, Instant now) {
    answers.cleanup(id, to, now);
  }

  /** Writes what a run came to; only when it has ended it counts in an evaluation. */
  public void end(String id, DrillResult result, Instant now) {
    write(id, result, now, null);
  }

  /** Writes what a run came to so far; somebody's word is still waited for. */
  public void await(String id, DrillResult result, Instant now, Instant until) {
    write(id, result, now, until);
  }

  private void write(String id, DrillResult result, Instant now, Instant until) {
    database.change(() -> write("""
            UPDATE drill_run SET ended_at = :ended, worked_until = :now, awaits = :awaits,
                   await_until = :until, newest_data = :newest, reaches = :reaches, bytes = :bytes, reading_ms = :reading,
                   blamed_point = :blamed_point, blamed_store = :blamed_store, sentence = :sentence,
                   hold_until = CASE WHEN cleanup = 'holding' THEN :now + hold_ms END
             WHERE id = :id AND ended_at IS NULL
            """)
        .param("now", now.toEpochMilli())
        .param("ended", until == null ? now.toEpochMilli() : null)
        .param("until", until == null ? null : until.toEpochMilli())
        .param(
            "awaits",
            until == null ? null : result.awaits().name().toLowerCase(java.util.Locale.ROOT))
        .param("newest", result.newest() == null ? null : result.newest().toEpochMilli())
        .param("reaches", result.reaches().code())
        .param("bytes", result.bytes())
        .param("reading", result.reading().toMillis())
        .param("blamed_point", result.blamedPoint())
        .param("blamed_store", result.blamedStore())
        .param("sentence", result.sentence())
        .param("id", id)
        .update());
  }

  /**
   * Ends a run that waited for somebody's word.
   *
   * @param blamedPoint the point that is shown to be bad; null when none is
   * @return false, with nothing changed, when it does not wait any more
   */
  public boolean answered(
      String id, ChecksState checks, String blamedPoint, String sentence, Instant now) {
    // One transaction: a crash between would leave an answer that nothing ever ends.
    return database.write(() -> {
      int ended = end(id, blamedPoint, sentence, now);
      if (ended == 1) {
        checks(id, checks);
      }
      return ended == 1;
    });
  }

  private int end(String id, String blamedPoint, String sentence, Instant now) {
    return database.change(() -> write("""
              UPDATE drill_run SET ended_at = :now, awaits = NULL, await_until = NULL,
                     sentence = :sentence, blamed_point = :blamed,
                     hold_until = CASE WHEN hold_ms > 0 THEN :now + hold_ms END
               WHERE id = :id AND ended_at IS NULL AND awaits IS NOT NULL
              """)
        .param("now", now.toEpochMilli())
        .param("sentence", sentence)
        .param("blamed", blamedPoint)
        .param("id", id)
        .update());
  }

  /** A person has answered; now somebody outside is waited for. False when no person was waited for any more. */
  public boolean awaitOutside(String id, String sentence, Instant until) {
    int changed = database.change(() -> write("""
            UPDATE drill_run SET awaits = 'outside', await_until = :until, sentence = :sentence
             WHERE id = :id AND ended_at IS NULL AND awaits = 'person'
            """)
        .param("until", until.toEpochMilli())
        .param("sentence", sentence)
        .param("id", id)
        .update());
    return changed == 1;
  }

  /** Ends a run that lost its process, or that was cancelled before it began. */
  public void interrupt(Run run, String sentence, Instant now) {
    database.change(() -> {
      closeAnswers(run);
      steps.leave(run.id(), sentence, now);
      return write(
              "UPDATE drill_run SET ended_at = :now, sentence = :sentence WHERE id = :id AND ended_at IS NULL")
          .param("now", now.toEpochMilli())
          .param("sentence", sentence)
          .param("id", run.id())
          .update();
    });
  }

  private void closeAnswers(Run run) {
    if (!run.restore().isFinal()) {
      restore(run.id(), RestoreState.INTERRUPTED);
    }
    if (run.checks() == ChecksState.WAITING) {
      checks(run.id(), ChecksState.NOT_ASKED);
    }
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

  public boolean cancelAsked(String id) {
    return database
            .reads()
            .sql("SELECT cancel_asked FROM drill_run WHERE id = :id")
            .param("id", id)
            .query(Integer.class)
            .single()
        == 1;
  }

  public Optional<Run> find(String id) {
    return rows.list(" WHERE id = ?", id).stream().findFirst().map(this::withSteps);
  }

  /** Waiting and running ones, oldest first, with their steps. */
  public List<Run> underWay() {
    return rows.list(" WHERE ended_at IS NULL ORDER BY queued_at, rowid").stream()
        .map(this::withSteps)
        .toList();
  }

  /** A second question is asked when the first is answered: each holds one of few connections. */
  private Run withSteps(Run run) {
    return run.with(steps.of(run.id()));
  }

  /** Ended ones without their steps, newest first. */
  public List<Run> ended(int atMost) {
    return rows.list(" WHERE ended_at IS NOT NULL ORDER BY ended_at DESC LIMIT ?", atMost);
  }

  /** The ended runs of one resource without their steps, newest first. */
  public List<Run> endedOf(String resource, int atMost) {
    return rows.list(
        " WHERE resource = ? AND ended_at IS NOT NULL ORDER BY ended_at DESC LIMIT ?",
        resource,
        atMost);
  }

  /** Runs whose time for an answer is over. */
  public List<Run> awaitedTooLong(Instant now) {
    return rows.list(
        " WHERE ended_at IS NULL AND await_until <= ? ORDER BY await_until", now.toEpochMilli());
  }

  /** Ended runs whose restored data is held, the oldest first; what stays up for a rehearsal is not among them. */
  public List<Run> holding() {
    return rows.list(
        " WHERE ended_at IS NOT NULL AND cleanup = 'holding' AND NOT EXISTS (SELECT 1 FROM rehearsal r"
            + " WHERE r.id = drill_run.rehearsal AND r.ended_at IS NULL) ORDER BY ended_at");
  }

  /** Ended runs whose restored data is still there: held too long, or left by a failed clean-up. */
  public List<Run> toCleanUp(Instant now) {
    return rows.list(
        " WHERE ended_at IS NOT NULL AND (cleanup = 'failed'"
            + " OR (cleanup = 'holding' AND hold_until <= ? AND NOT EXISTS (SELECT 1 FROM rehearsal r"
            + " WHERE r.id = drill_run.rehearsal AND r.ended_at IS NULL))) ORDER BY ended_at",
        now.toEpochMilli());
  }

  /** Every drill that had ended by {@code asAt}, as it stood then. */
  public List<DrillFact> facts(Instant asAt) {
    return rows.facts(asAt);
  }
}
