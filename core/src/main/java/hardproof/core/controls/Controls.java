package hardproof.core.controls;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.insights.Stretch;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;

/** Puts outcomes to the public controls that they serve. Pure. */
public final class Controls {
  private final Instant end;
  private final Watched watched;
  private final Map<String, Long> openMillis = new HashMap<>();
  private final Map<CriterionCode, SortedMap<Integer, Sum>> sums =
      new EnumMap<>(CriterionCode.class);

  /** What the outcomes of one criterion in one tier come to. */
  private static final class Sum {
    private final SortedMap<OutcomeState, Integer> outcomes = new TreeMap<>();
    private long looked;
    private long open;

    void add(Sum other) {
      other.outcomes.forEach((state, n) -> outcomes.merge(state, n, Integer::sum));
      looked += other.looked;
      open += other.open;
    }

    ControlResult.Tally tally() {
      return new ControlResult.Tally(outcomes, looked == 0 ? null : 1 - (double) open / looked);
    }
  }

  private Controls(Evaluation evaluation, Watched watched) {
    this.end = evaluation.asAt();
    this.watched = watched;
    watched.stretches().forEach(this::addOpen);
    for (WorkloadResult w : evaluation.workloads()) {
      int tier = w.workload().heldTo();
      for (ResourceResult member : w.members()) {
        if (member.verdict() != Verdict.EXCLUDED) {
          member.outcomes().forEach(o -> add(tier, member, o));
        }
      }
    }
  }

  /** Every control, in the order in which they are shown; resources that are left out are not counted. */
  public static List<ControlResult> of(Evaluation evaluation, Watched watched) {
    Controls controls = new Controls(evaluation, watched);
    return Arrays.stream(PublicControl.values()).map(controls::result).toList();
  }

  private void addOpen(Stretch stretch) {
    Instant begin = later(watched.begin(), stretch.opened());
    Instant until =
        stretch.closed() == null || stretch.closed().isAfter(end) ? end : stretch.closed();
    openMillis.merge(stretch.finding(), millis(begin, until), Long::sum);
  }

  private void add(int tier, ResourceResult member, Outcome outcome) {
    // A criterion of somebody's own names no public control.
    if (!(outcome.criterion() instanceof CriterionCode code)) {
      return;
    }
    Sum sum =
        sums.computeIfAbsent(code, c -> new TreeMap<>()).computeIfAbsent(tier, t -> new Sum());
    sum.outcomes.merge(outcome.state(), 1, Integer::sum);
    if (hasShare(code, outcome.state())) {
      String key = member.resource().key();
      long looked = millis(later(watched.begin(), member.resource().seen().firstSeen()), end);
      sum.looked += looked;
      sum.open += Math.min(looked, openMillis.getOrDefault(code.code() + ":" + key, 0L));
    }
  }

  /** Whether it can be judged, and is written down of each resource: the pace of a feed is of the feed. */
  private static boolean hasShare(CriterionCode code, OutcomeState state) {
    return state != OutcomeState.NOT_APPLICABLE
        && state != OutcomeState.NOT_ENOUGH_DATA
        && code != CriterionCode.FRESH_PACE;
  }

  /** The later of two instants; null when the first is: then nothing was looked at. */
  private static Instant later(Instant begin, Instant other) {
    return begin == null || other == null || begin.isAfter(other) ? begin : other;
  }

  private static long millis(Instant from, Instant to) {
    return from == null ? 0 : Math.max(0, Duration.between(from, to).toMillis());
  }

  private ControlResult result(PublicControl control) {
    List<CriterionCode> criteria = control.criteria();
    Sum whole = new Sum();
    SortedMap<Integer, Sum> tiers = new TreeMap<>();
    for (CriterionCode code : criteria) {
      sums.getOrDefault(code, new TreeMap<>()).forEach((tier, sum) -> {
        whole.add(sum);
        tiers.computeIfAbsent(tier, t -> new Sum()).add(sum);
      });
    }
    SortedMap<Integer, ControlResult.Tally> tallies = new TreeMap<>();
    tiers.forEach((tier, sum) -> tallies.put(tier, sum.tally()));
    ControlState state =
        criteria.isEmpty() ? ControlState.NOT_LOOKED_AT : ControlState.of(whole.outcomes);
    return new ControlResult(control, state, criteria, whole.tally(), tallies);
  }
}
