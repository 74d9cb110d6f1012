package hardproof.core.criteria;

import hardproof.core.facts.PointSet;
import hardproof.core.points.PointOutcome;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;

/** Is every point kept long enough? */
final class HistoryLifetime extends ShippedCriterion {
  HistoryLifetime() {
    super(
        Group.HISTORY,
        "Minimum lifetime",
        "Every point of the period is kept for at least as long as the tier demands.",
        List.of("NIST CP-9"),
        Parameter.LIFETIME);
  }

  /** The lives of the points of the period: from when they were available to the last expiry of their copies. */
  private static final class Lives {
    private int judged;
    private int under;
    private long least = Long.MAX_VALUE;
    private int shortestOf = -1;

    Lives(Subject s, Duration demanded) {
      PointSet set = s.set();
      long begin = s.periodStart().toEpochMilli();
      for (int row = 0; row < set.size(); row++) {
        if (set.available(row) != PointSet.NONE
            && set.available(row) >= begin
            && set.outcome(row) == PointOutcome.COMPLETE) {
          add(row, set.available(row), expires(set, row), demanded.toMillis());
        }
      }
    }

    private static long expires(PointSet set, int row) {
      long expires = PointSet.NONE;
      for (int place = set.copies().first(row); place < set.copies().first(row + 1); place++) {
        expires = Math.max(expires, set.copies().expires(place));
      }
      return expires;
    }

    private void add(int row, long available, long expires, long demanded) {
      if (expires == PointSet.NONE) {
        return;
      }
      long life = expires - available;
      judged++;
      under += life < demanded ? 1 : 0;
      if (life < least) {
        least = life;
        shortestOf = row;
      }
    }
  }

  @Override
  Judgement judge(Subject s) {
    Duration demanded = s.demand().duration(Parameter.LIFETIME);
    if (demanded == null) {
      return Judgement.notDemanded();
    }
    Lives lives = new Lives(s, demanded);
    if (lives.judged == 0) {
      return Judgement.unknown("when its copies expire is not known", "copies with an expiry = 0");
    }
    return judged(s, demanded, lives);
  }

  private static Judgement judged(Subject s, Duration demanded, Lives lives) {
    Duration shortest = Duration.ofMillis(lives.least);
    String period = " of the last " + Wording.duration(s.period());
    String key = s.set().key(lives.shortestOf);
    boolean met = shortest.compareTo(demanded) >= 0;
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.of(shortest),
        Measure.of(demanded),
        met
            ? "each of the " + lives.judged + " points" + period + " is kept for at least "
                + Wording.duration(shortest)
            : lives.under + " of " + Wording.count(lives.judged, "point", "points") + period
                + (lives.under == 1 ? " is" : " are") + " kept for less than "
                + Wording.duration(demanded) + ", " + key + " for "
                + Wording.duration(shortest) + " only",
        "the shortest of (latest expiry of its copies − available) = " + Wording.duration(shortest)
            + atLeast(met) + Wording.duration(demanded),
        List.of(new FactRef("points", key)));
  }
}
