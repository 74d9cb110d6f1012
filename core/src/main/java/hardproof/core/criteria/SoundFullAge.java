package hardproof.core.criteria;

import hardproof.core.facts.Usability.Judged;
import java.time.Duration;
import java.util.List;

/** How old the full is that the newest point hangs from. */
final class SoundFullAge extends NewestPointCriterion {
  SoundFullAge() {
    super(
        "Age of the full",
        "The full that the newest point hangs from is no older than the tier allows.",
        List.of("NIST CP-10"),
        Parameter.FULL_AGE);
  }

  @Override
  boolean asked(TierDemand demand) {
    return demand.duration(Parameter.FULL_AGE) != null;
  }

  @Override
  Judgement judge(Subject s, Judged j) {
    Duration allowed = s.demand().duration(Parameter.FULL_AGE);
    if (j.full() == null) {
      return Judgement.unknown(
          "the chain of the newest point is broken: it hangs from no full", "full = none");
    }
    return Judgement.within(
        s,
        j.full().dataTime(),
        allowed,
        "the full that the newest point hangs from was made",
        "data time of the full",
        new FactRef("points", j.full().key()));
  }
}
