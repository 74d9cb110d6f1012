package hardproof.core.criteria;

import hardproof.core.facts.Usability.Judged;
import hardproof.core.wording.Wording;
import java.util.List;

/** How much it takes to restore the newest point. */
final class SoundChainLength extends NewestPointCriterion {
  SoundChainLength() {
    super(
        "Chain length",
        "The newest point's chain is no longer than the tier allows.",
        List.of("NIST CP-10"),
        Parameter.CHAIN_LENGTH);
  }

  @Override
  boolean asked(TierDemand demand) {
    return demand.value(Parameter.CHAIN_LENGTH) != null;
  }

  @Override
  Judgement judge(Subject s, Judged j) {
    Long allowed = s.demand().value(Parameter.CHAIN_LENGTH);
    int length = j.chainLength();
    return Judgement.of(
        OutcomeState.metIf(length <= allowed),
        Measure.count(length),
        Measure.count(allowed),
        "to restore the newest point "
            + Wording.count(length, "point is", "points are") + " needed; " + allowed
            + " at most are allowed",
        "points from the full to the newest = " + length + atMost(length <= allowed) + allowed,
        fact(j));
  }
}
