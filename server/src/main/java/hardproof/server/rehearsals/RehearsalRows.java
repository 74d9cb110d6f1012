package hardproof.server.rehearsals;

import hardproof.core.drills.Method;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.rehearsals.MemberState;
import hardproof.core.wording.Coded;
import hardproof.server.runs.CheckJson;
import hardproof.server.storage.Columns;
import hardproof.server.survival.LossJson;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Rehearsals and their members as rows of the database. */
final class RehearsalRows {
  private RehearsalRows() {}

  /** Without its members. */
  static Rehearsal rehearsal(ResultSet r) throws SQLException {
    String outcome = r.getString("outcome");
    return new Rehearsal(
        r.getString("id"),
        new Rehearsal.Order(
            r.getString("workload"),
            Columns.instant(r, "moment"),
            LossJson.read(r.getString("lost")),
            r.getString("loss"),
            r.getInt("at_once"),
            Columns.duration(r, "stay_ms"),
            Columns.duration(r, "hold_ms"),
            r.getString("reason"),
            r.getString("requested_by"),
            r.getString("programme")),
        new Rehearsal.Planned(
            Columns.duration(r, "planned_ms"),
            Columns.duration(r, "rto_ms"),
            Columns.duration(r, "spread_ms")),
        new Rehearsal.Times(
            Columns.instant(r, "queued_at"),
            Columns.instant(r, "not_after"),
            Columns.instant(r, "started_at"),
            Columns.instant(r, "ended_at")),
        r.getInt("cancel_asked") == 1,
        outcome == null ? null : result(r, outcome),
        List.of());
  }

  private static Rehearsal.Result result(ResultSet r, String outcome) throws SQLException {
    return new Rehearsal.Result(
        Coded.of(RehearsalFact.Outcome.class, outcome),
        Columns.duration(r, "clock_ms"),
        Columns.duration(r, "expected_ms"),
        CheckJson.readLines(r.getString("path")),
        r.getString("sentence"));
  }

  static Rehearsal.Member member(ResultSet r) throws SQLException {
    return new Rehearsal.Member(
        r.getInt("number"),
        r.getString("resource"),
        r.getString("name"),
        r.getString("comes_with"),
        CheckJson.readLines(r.getString("needs")),
        from(r),
        Duration.ofMillis(r.getLong("planned_begin_ms")),
        Duration.ofMillis(r.getLong("planned_end_ms")),
        r.getString("run"),
        Coded.of(MemberState.class, r.getString("state")),
        r.getString("sentence"));
  }

  private static Rehearsal.Member.@Nullable From from(ResultSet r) throws SQLException {
    return r.getString("point") == null
        ? null
        : new Rehearsal.Member.From(
            r.getString("point"),
            r.getString("store"),
            Coded.of(Method.class, r.getString("method")),
            r.getString("estimate"));
  }
}
