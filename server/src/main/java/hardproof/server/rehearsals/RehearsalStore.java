package hardproof.server.rehearsals;

import hardproof.core.drills.RehearsalFact;
import hardproof.core.rehearsals.MemberState;
import hardproof.core.rehearsals.RehearsalResult;
import hardproof.server.runs.CheckJson;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import hardproof.server.survival.LossJson;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.RowCallbackHandler;

/** Rehearsals in the database, with their members. */
public final class RehearsalStore {
  private static final String SELECT = """
      SELECT id, workload, moment, loss, lost, at_once, stay_ms, hold_ms, reason, requested_by, programme, queued_at,
             not_after, started_at, ended_at, planned_ms, rto_ms, spread_ms, cancel_asked, outcome, clock_ms, expected_ms, path,
             sentence
        FROM rehearsal
      """;

  private final Database database;

  public RehearsalStore(Database database) {
    this.database = database;
  }

  /** Puts one into the queue, with its members. */
  void queue(Rehearsal r) {
    database.write(() -> {
      database
          .writes()
          .sql("""
              INSERT INTO rehearsal (id, workload, moment, loss, lost, at_once, stay_ms, hold_ms, reason, requested_by,
                                     programme, queued_at, not_after, planned_ms, rto_ms, spread_ms)
              VALUES (:id, :workload, :moment, :loss, :lost, :at_once, :stay, :hold, :reason, :by, :programme, :queued,
                      :not_after, :planned, :rto, :spread)
              """)
          .param("id", r.id())
          .param("workload", r.order().workload())
          .param("moment", r.order().moment().toEpochMilli())
          .param("loss", r.order().lossWords())
          .param("lost", LossJson.write(r.order().loss()))
          .param("at_once", r.order().atOnce())
          .param("stay", r.order().stay().toMillis())
          .param("hold", r.order().hold().toMillis())
          .param("reason", r.order().reason())
          .param("by", r.order().requestedBy())
          .param("programme", r.order().programme())
          .param("queued", r.times().queuedAt().toEpochMilli())
          .param("not_after", Columns.millis(r.times().notAfter()))
          .param("planned", r.planned().total().toMillis())
          .param("rto", r.planned().rto().toMillis())
          .param(
              "spread",
              r.planned().spread() == null ? null : r.planned().spread().toMillis())
          .update();
      r.members().forEach(m -> insert(r.id(), m));
      return null;
    });
  }

  private void insert(String rehearsal, Rehearsal.Member m) {
    Rehearsal.Member.From from = m.from();
    database
        .writes()
        .sql("""
            INSERT INTO rehearsal_member (rehearsal, number, resource, name, comes_with, needs, point, store, method,
                                          estimate, planned_begin_ms, planned_end_ms, state, sentence)
            VALUES (:rehearsal, :number, :resource, :name, :with, :needs, :point, :store, :method, :estimate, :begin,
                    :end, :state, :sentence)
            """)
        .param("rehearsal", rehearsal)
        .param("number", m.number())
        .param("resource", m.resource())
        .param("name", m.name())
        .param("with", m.with())
        .param("needs", CheckJson.writeLines(m.needs()))
        .param("point", from == null ? null : from.point())
        .param("store", from == null ? null : from.store())
        .param("method", from == null ? null : from.method().code())
        .param("estimate", from == null ? null : from.estimate())
        .param("begin", m.plannedBegin().toMillis())
        .param("end", m.plannedEnd().toMillis())
        .param("state", m.state().code())
        .param("sentence", m.sentence())
        .update();
  }

  void started(String id, Instant now) {
    database.write(() -> database
        .writes()
        .sql("UPDATE rehearsal SET started_at = :now WHERE id = :id AND started_at IS NULL")
        .param("now", now.toEpochMilli())
        .param("id", id)
        .update());
  }

  /** The drill of a member begins; in the transaction that queues it. */
  void begun(String id, Rehearsal.Member member, String run) {
    database
        .writes()
        .sql("""
            UPDATE rehearsal_member SET run = :run, state = 'running'
             WHERE rehearsal = :id AND number = :number AND state = 'waiting'
            """)
        .param("run", run)
        .param("id", id)
        .param("number", member.number())
        .update();
    database
        .writes()
        .sql("UPDATE drill_run SET rehearsal = :id WHERE id = :run")
        .param("id", id)
        .param("run", run)
        .update();
  }

  /** What became of a member. */
  void settle(String id, Rehearsal.Member member, MemberState state, String sentence) {
    database.write(() -> database
        .writes()
        .sql("""
            UPDATE rehearsal_member SET state = :state, sentence = :sentence
             WHERE rehearsal = :id AND number = :number
            """)
        .param("state", state.code())
        .param("sentence", sentence)
        .param("id", id)
        .param("number", member.number())
        .update());
  }

  /** Ends it; what its members restored is kept for as long as was asked for from now on. */
  void end(String id, RehearsalResult result, Instant now) {
    database.change(() -> {
      database
          .writes()
          .sql("""
              UPDATE drill_run SET hold_until = :now + (SELECT hold_ms FROM rehearsal WHERE id = :id)
               WHERE rehearsal = :id AND cleanup = 'holding'
              """)
          .param("now", now.toEpochMilli())
          .param("id", id)
          .update();
      return database
          .writes()
          .sql("""
              UPDATE rehearsal SET ended_at = :now, outcome = :outcome, clock_ms = :clock, expected_ms = :expected,
                     path = :path,
                     sentence = :sentence
               WHERE id = :id AND ended_at IS NULL
              """)
          .param("now", now.toEpochMilli())
          .param("outcome", result.outcome().code())
          .param("clock", result.clock().toMillis())
          .param(
              "expected", result.expected() == null ? null : result.expected().toMillis())
          .param("path", CheckJson.writeLines(result.path()))
          .param("sentence", result.sentence())
          .param("id", id)
          .update();
    });
  }

  /**
   * Asks one to end.
   *
   * @return false when it has ended already or does not exist
   */
  boolean askToCancel(String id) {
    return database.write(() -> database
            .writes()
            .sql("UPDATE rehearsal SET cancel_asked = 1 WHERE id = :id AND ended_at IS NULL")
            .param("id", id)
            .update())
        == 1;
  }

  public Optional<Rehearsal> find(String id) {
    return list(" WHERE id = ?", id).stream().findFirst();
  }

  /** Those that wait or go on, the first to be asked for first. */
  public List<Rehearsal> underWay() {
    return list(" WHERE ended_at IS NULL ORDER BY queued_at, rowid");
  }

  /** The newest to end first. */
  public List<Rehearsal> ended(int atMost) {
    return list(" WHERE ended_at IS NOT NULL ORDER BY ended_at DESC LIMIT ?", atMost);
  }

  /** Those of a workload, the newest first. */
  public List<Rehearsal> of(String workload, int atMost) {
    return list(" WHERE workload = ? ORDER BY queued_at DESC LIMIT ?", workload, atMost);
  }

  /** Every rehearsal that had ended by {@code asAt}. */
  public List<RehearsalFact> facts(Instant asAt) {
    return list(" WHERE ended_at <= ? ORDER BY ended_at, id", asAt.toEpochMilli()).stream()
        .map(Rehearsal::fact)
        .toList();
  }

  /** A second question is asked when the first is answered: each holds one of few connections. */
  private List<Rehearsal> list(String which, Object... values) {
    List<Rehearsal> bare = database
        .reads()
        .sql(SELECT + which)
        .params(values)
        .query((r, n) -> RehearsalRows.rehearsal(r))
        .list();
    Map<String, List<Rehearsal.Member>> members =
        bare.isEmpty() ? Map.of() : members(which, values);
    return bare.stream()
        .map(r -> with(r, members.getOrDefault(r.id(), List.of())))
        .toList();
  }

  private static Rehearsal with(Rehearsal r, List<Rehearsal.Member> members) {
    return new Rehearsal(
        r.id(), r.order(), r.planned(), r.times(), r.cancelAsked(), r.result(), members);
  }

  /** Of all of them at once: there may be years of rehearsals. */
  private Map<String, List<Rehearsal.Member>> members(String which, Object... values) {
    Map<String, List<Rehearsal.Member>> members = new HashMap<>();
    database
        .reads()
        .sql("""
            SELECT rehearsal, number, resource, name, comes_with, needs, point, store, method, estimate, planned_begin_ms,
                   planned_end_ms, run, state, sentence
              FROM rehearsal_member WHERE rehearsal IN (SELECT id FROM rehearsal
            """ + which + ") ORDER BY rehearsal, number")
        .params(values)
        .query((RowCallbackHandler) r -> members
            .computeIfAbsent(r.getString(1), id -> new ArrayList<>())
            .add(RehearsalRows.member(r)));
    return members;
  }
}
