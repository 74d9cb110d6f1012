package hardproof.core.criteria;

import hardproof.core.copies.Copy;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;

/** Was the newest locked copy locked for long enough? */
final class SafeLocked extends ShippedCriterion {
  SafeLocked() {
    super(
        Group.SAFEGUARDS,
        "Locked long enough",
        "The newest locked copy was locked for at least the minimum.",
        List.of("NIST CP-9(8)", "CIS 11.3"),
        Parameter.LOCKED_FOR);
  }

  @Override
  Judgement judge(Subject s) {
    Duration demanded = s.demand().duration(Parameter.LOCKED_FOR);
    if (demanded == null) {
      return Judgement.notDemanded();
    }
    List<Judged> fresh = s.freshPoints();
    for (int i = fresh.size() - 1; i >= 0; i--) {
      RecoveryPoint point = fresh.get(i).point();
      Copy longest = s.copiesOf(fresh.get(i)).stream()
          .filter(c -> c.lockedUntil() != null)
          .max(Comparator.comparing(Copy::lockedUntil))
          .orElse(null);
      if (longest == null || point.available() == null) {
        continue;
      }
      Duration lock = Duration.between(
          longest.finished() == null ? point.available() : longest.finished(),
          longest.lockedUntil());
      boolean met = lock.compareTo(demanded) >= 0;
      return Judgement.of(
          OutcomeState.metIf(met),
          Measure.of(lock),
          Measure.of(demanded),
          "the newest locked copy, on " + s.estate().storeName(longest.store())
              + ", was locked for " + Wording.duration(lock) + ", "
              + Wording.duration(lock.minus(demanded).abs())
              + (met ? " more than the " : " short of the ") + Wording.duration(demanded)
              + " demanded",
          "locked until − copy finished = " + Wording.duration(lock) + atLeast(met)
              + Wording.duration(demanded),
          List.of(new FactRef("points", point.key())));
    }
    return Judgement.of(
        OutcomeState.NOT_MET,
        Measure.of(Duration.ZERO),
        Measure.of(demanded),
        "no copy " + s.freshWords() + " is locked; " + Wording.duration(demanded) + " is demanded",
        "locked copies = 0, so locked for " + Wording.duration(Duration.ZERO) + atLeast(false)
            + Wording.duration(demanded),
        List.of());
  }
}
