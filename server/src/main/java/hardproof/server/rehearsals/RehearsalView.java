package hardproof.server.rehearsals;

import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.rehearsals.MemberState;
import hardproof.core.rehearsals.Undisturbed;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunStore;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A rehearsal as screens see it. Times are milliseconds from its begin.
 *
 * @param loss what was left out as if it were lost; null where nothing was
 * @param outcome null until it has ended
 * @param clockMs from its begin to the last check that passed, without waits for people; so far, where it goes on
 * @param rehearsed whether it shows the workload rehearsed: it passed, inside the RTO
 * @param cleanup of what its members restored
 * @param undisturbed whether protection went on meanwhile, in words; null until it has ended
 * @param sentence what came of it; empty until then
 */
record RehearsalView(
    String id,
    String workload,
    String workloadName,
    Instant moment,
    @Nullable String loss,
    int atOnce,
    String reason,
    String requestedBy,
    Instant queuedAt,
    @Nullable Instant startedAt,
    @Nullable Instant endedAt,
    long plannedMs,
    long rtoMs,
    @Nullable Long spreadMs,
    RehearsalFact.@Nullable Outcome outcome,
    @Nullable Long clockMs,
    boolean rehearsed,
    CleanupState cleanup,
    @Nullable String undisturbed,
    String sentence,
    List<MemberView> members) {
  /**
   * A member: planned beside measured.
   *
   * @param beginMs when its drill began; null before
   * @param workedMs when its last check passed; null before
   * @param critical whether it set the time
   * @param run of its drill; null where it comes with another, or has not begun
   */
  record MemberView(
      String resource,
      String name,
      @Nullable String with,
      List<String> needs,
      MemberState state,
      long plannedBeginMs,
      long plannedEndMs,
      @Nullable Long beginMs,
      @Nullable Long workedMs,
      boolean critical,
      @Nullable String run,
      @Nullable Instant pointAt,
      @Nullable String store,
      @Nullable Method method,
      String sentence) {}

  static RehearsalView of(Rehearsal r, Estate estate, RunStore runs, Instant now) {
    Workload workload = estate.workload(r.order().workload());
    List<Run> own = r.members().stream()
        .map(m -> m.run() == null ? null : runs.find(m.run()).orElse(null))
        .filter(Objects::nonNull)
        .toList();
    Rehearsal.Result result = r.result();
    return new RehearsalView(
        r.id(),
        r.order().workload(),
        workload == null ? r.order().workload() : workload.name(),
        r.order().moment(),
        r.order().lossWords(),
        r.order().atOnce(),
        r.order().reason(),
        r.order().requestedBy(),
        r.times().queuedAt(),
        r.times().startedAt(),
        r.times().endedAt(),
        r.planned().total().toMillis(),
        r.planned().rto().toMillis(),
        r.planned().spread() == null ? null : r.planned().spread().toMillis(),
        result == null ? null : result.outcome(),
        result != null
            ? (Long) result.clock().toMillis()
            : r.times().startedAt() == null
                ? null
                : (Long)
                    Math.max(0, Duration.between(r.times().startedAt(), now).toMillis()),
        result != null
            && result.outcome() == RehearsalFact.Outcome.PASSED
            && r.fact().counted().compareTo(r.planned().rto()) <= 0,
        cleanup(own),
        r.ended() && r.times().startedAt() != null ? undisturbed(r, estate).sentence() : null,
        result == null ? "" : result.sentence(),
        r.members().stream().map(m -> member(r, m, estate, own)).toList());
  }

  /** The worst of all: what failed, else what is held, else what is not due. */
  private static CleanupState cleanup(List<Run> runs) {
    List<CleanupState> worst =
        List.of(CleanupState.FAILED, CleanupState.HOLDING, CleanupState.NOT_DUE, CleanupState.DONE);
    return runs.stream()
        .map(Run::cleanup)
        .min(Comparator.comparingInt(worst::indexOf))
        .orElse(CleanupState.NOT_DUE);
  }

  static Undisturbed undisturbed(Rehearsal r, Estate estate) {
    List<String> resources = new ArrayList<>();
    r.members().stream()
        .map(Rehearsal.Member::resource)
        .filter(k -> estate.resource(k) != null)
        .forEach(resources::add);
    return Undisturbed.of(estate, resources, r.times().startedAt(), r.times().endedAt());
  }

  private static MemberView member(Rehearsal r, Rehearsal.Member m, Estate estate, List<Run> runs) {
    Run run = runs.stream().filter(o -> o.id().equals(m.run())).findFirst().orElse(null);
    Instant begin = r.times().startedAt();
    RecoveryPoint point =
        m.from() == null ? null : estate.point(m.resource(), m.from().point());
    boolean awaits = m.state() == MemberState.RUNNING && run != null && run.awaiting();
    return new MemberView(
        m.resource(),
        m.name(),
        m.with(),
        m.needs(),
        awaits ? MemberState.AWAITING : m.state(),
        m.plannedBegin().toMillis(),
        m.plannedEnd().toMillis(),
        since(begin, run == null ? null : run.startedAt()),
        since(begin, run == null ? null : run.workedUntil()),
        r.result() != null && r.result().path().contains(m.resource()),
        m.run(),
        point == null ? null : point.dataTime(),
        m.from() == null ? null : estate.storeName(m.from().store()),
        m.from() == null ? null : m.from().method(),
        m.sentence());
  }

  private static @Nullable Long since(@Nullable Instant begin, @Nullable Instant then) {
    return begin == null || then == null
        ? null
        : (Long) Duration.between(begin, then).toMillis();
  }
}
