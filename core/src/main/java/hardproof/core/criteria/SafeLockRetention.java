package hardproof.core.criteria;

import hardproof.core.copies.Copy;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;

/** Is a copy locked for as long as it is to be kept? */
final class SafeLockRetention extends ShippedCriterion {
  SafeLockRetention() {
    super(
        Group.SAFEGUARDS,
        "Lock as long as retention",
        "No lock ends before its copy expires.",
        List.of("NIST CP-9(8)"),
        Parameter.LOCK_COVERS_RETENTION);
  }

  @Override
  Judgement judge(Subject s) {
    if (!s.demand().demands(Parameter.LOCK_COVERS_RETENTION)) {
      return Judgement.notDemanded();
    }
    int judged = 0;
    int locked = 0;
    Copy worst = null;
    for (Judged j : s.freshPoints()) {
      for (Copy copy : s.copiesOf(j)) {
        locked += copy.lockedUntil() == null ? 0 : 1;
        if (copy.lockedUntil() != null && copy.expires() != null) {
          judged++;
          if (worst == null || open(copy).compareTo(open(worst)) > 0) {
            worst = copy;
          }
        }
      }
    }
    if (locked == 0) {
      return Judgement.notAsked("no copy " + s.freshWords() + " is locked");
    } else if (worst == null) {
      return Judgement.unknown("when its locked copies expire is not known", "copies judged = 0");
    }
    Duration open = open(worst);
    boolean met = open.isZero() || open.isNegative();
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.of(open),
        Measure.of(Duration.ZERO),
        met
            ? "each of the " + judged + " locked copies " + s.freshWords()
                + " is locked until it expires"
            : "the copy of " + worst.point() + " on " + s.estate().storeName(worst.store())
                + " is locked until " + Wording.time(worst.lockedUntil(), s.asAt()) + ", "
                + Wording.duration(open) + " before it expires: it could be deleted in between",
        "the longest of (expires − locked until) = " + Wording.duration(open) + atMost(met) + "0 s",
        List.of(new FactRef("points", worst.point())));
  }

  /** How long a copy is to be kept and not locked any more. */
  private static Duration open(Copy copy) {
    return Duration.between(copy.lockedUntil(), copy.expires());
  }
}
