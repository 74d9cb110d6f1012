package hardproof.core.criteria;

import hardproof.core.copies.CopyLag;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.Policy;
import hardproof.core.facts.PointSet;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Every promised copy of the points that became available in the period. */
final class CopiesDeadline extends ShippedCriterion {
  CopiesDeadline() {
    super(
        Group.COPIES,
        "Copy deadline",
        "Every copy that a policy promises was finished within its deadline.",
        List.of("NIST CP-9(5)"));
  }

  @Override
  Judgement judge(Subject s) {
    List<Policy.CopyTarget> targets =
        s.policies().stream().flatMap(p -> p.copyTo().stream()).distinct().toList();
    if (targets.isEmpty()) {
      return nothingPromised();
    }
    Promised promised = new Promised(s, targets);
    promised.look();
    return promised.judged == 0
        ? Judgement.unknown(
            "no point of the last " + Wording.duration(s.period()) + " to copy", "points = 0")
        : promised.judgement();
  }

  private static Judgement nothingPromised() {
    return Judgement.of(
        OutcomeState.NOT_APPLICABLE, "no policy promises a copy by a deadline", "copy targets = 0");
  }

  /** The promised copies of one resource, looked at one after the other. */
  private static final class Promised {
    private final Subject s;
    private final PointSet set;
    private final List<Policy.CopyTarget> targets;
    private final int[] stores;
    private final long[] deadlines;
    private final long now;
    private final Set<FactRef> facts = new LinkedHashSet<>();
    private int judged;
    private int over;
    private int rowOver = -1;
    private int targetOver = -1;
    private long mostOver;
    private long worstPast = Long.MIN_VALUE;
    private int worstTarget = -1;
    private String projected = "";

    Promised(Subject s, List<Policy.CopyTarget> targets) {
      this.s = s;
      this.set = s.set();
      this.targets = targets;
      this.stores =
          targets.stream().mapToInt(t -> set.copies().storeNumber(t.store())).toArray();
      this.deadlines = targets.stream().mapToLong(t -> t.deadline().toMillis()).toArray();
      this.now = s.asAt().toEpochMilli();
    }

    void look() {
      long begin = s.periodStart().toEpochMilli();
      for (int row = 0; row < set.size(); row++) {
        long available = set.available(row);
        if (available != PointSet.NONE
            && available >= begin
            && available <= now
            && set.outcome(row) != PointOutcome.FAILED) {
          for (int target = 0; target < stores.length; target++) {
            look(row, available, target);
          }
        }
      }
    }

    private void look(int row, long available, int target) {
      judged++;
      long finished = finished(row, stores[target]);
      long past = CopyLag.past(available, finished, deadlines[target], now);
      if (past > 0) {
        over(row, target, past);
      } else if (finished == PointSet.NONE || !CopyLag.there(finished, now)) {
        projected = CopyProjection.of(s, set.point(row), targets.get(target)).orElse(projected);
      }
      if (past > worstPast) {
        worstPast = past;
        worstTarget = target;
      }
    }

    private void over(int row, int target, long past) {
      over++;
      if (past > mostOver) {
        mostOver = past;
        rowOver = row;
        targetOver = target;
      }
      if (facts.size() < FactRef.ENOUGH) {
        facts.add(new FactRef("points", set.key(row)));
      }
    }

    /**
     * When the first copy on a store that is there was finished; NONE when none is: one that is missing,
     * damaged or deleted is not in time, whatever its finish time says. One that was deleted when its time
     * was over has kept its promise.
     */
    private long finished(int row, int store) {
      for (int place = set.copies().first(row); place < set.copies().first(row + 1); place++) {
        if (set.copies().store(place) == store
            && (set.copies().state(place) == CopyState.PRESENT || servedItsTime(place))
            && set.copies().finished(place) != PointSet.NONE) {
          return set.copies().finished(place);
        }
      }
      return PointSet.NONE;
    }

    private boolean servedItsTime(int place) {
      return set.copies().state(place) == CopyState.DELETED
          && set.copies().expires(place) != PointSet.NONE
          && set.copies().recordedAt(place) >= set.copies().expires(place);
    }

    Judgement judgement() {
      Duration allowed = targets.get(worstTarget).deadline();
      Duration worst = allowed.plusMillis(worstPast);
      return Judgement.of(
          OutcomeState.metIf(over == 0),
          Measure.of(worst),
          Measure.of(allowed),
          (over == 0 ? allInTime() : someOver()) + projected,
          "the longest lag (copy finished, or now, − point available) = " + Wording.duration(worst)
              + atMost(over == 0) + Wording.duration(allowed) + "; late or missing = " + over
              + " of "
              + judged,
          List.copyOf(facts));
    }

    private String allInTime() {
      return judged == 1
          ? "the one promised copy was in time or still has time"
          : "all " + judged + " promised copies were in time or still have time";
    }

    private String someOver() {
      return over + " of " + Wording.count(judged, "promised copy was", "promised copies were")
          + " late or missing: " + mostOver();
    }

    /** Of the copy that is farthest over its deadline. */
    private String mostOver() {
      Policy.CopyTarget target = targets.get(targetOver);
      RecoveryPoint point = set.point(rowOver);
      long finished = finished(rowOver, stores[targetOver]);
      CopyLag lag = CopyLag.of(
          point.available(),
          finished == PointSet.NONE ? null : Instant.ofEpochMilli(finished),
          target.deadline(),
          s.asAt());
      boolean late = lag.state() == CopyLag.State.LATE;
      return "the copy of " + point.key() + " to " + s.estate().storeName(target.store())
          + (late ? " came after " : " is missing after ") + Wording.duration(lag.lag())
          + ", " + Wording.duration(lag.lag().minus(lag.deadline())) + " over its deadline of "
          + Wording.duration(lag.deadline());
    }
  }
}
