package hardproof.core.criteria;

import hardproof.core.estate.Policy;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;

/** Can what the policy keeps reach back far enough? */
final class HistoryOnPaper extends ShippedCriterion {
  HistoryOnPaper() {
    super(
        Group.HISTORY,
        "Reach on paper",
        "What the policy keeps reaches back as far as the tier demands.",
        List.of("NIST CP-9"),
        Parameter.REACH);
  }

  @Override
  Judgement judge(Subject s) {
    Duration demanded = s.demand().duration(Parameter.REACH);
    if (demanded == null) {
      return Judgement.notDemanded();
    }
    if (s.policies().isEmpty()) {
      return Judgement.notAsked("no policy has it in scope: there is no retention to judge");
    }
    Policy best = null;
    Duration reach = null;
    for (Policy policy : s.policies()) {
      Duration own = policy.retention().reachOnPaper(policy.longestGap(s.asAt()).orElse(null));
      if (own != null && (reach == null || own.compareTo(reach) > 0)) {
        best = policy;
        reach = own;
      }
    }
    if (reach == null) {
      return Judgement.unknown(
          "no policy of it states how long points are kept", "retention = none");
    }
    boolean met = reach.compareTo(demanded) >= 0;
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.of(reach),
        Measure.of(demanded),
        best.name() + " keeps " + best.retention().words()
            + best.longestGap(s.asAt())
                .map(g -> " with " + Wording.duration(g) + " between starts")
                .orElse("")
            + ", which reaches " + Wording.duration(reach) + " back, "
            + Wording.duration(reach.minus(demanded).abs())
            + (met ? " more than the " : " short of the ") + Wording.duration(demanded)
            + " demanded",
        "the farthest of points kept × longest gap, days kept whole, and long-tail slots = "
            + Wording.duration(reach) + atLeast(met) + Wording.duration(demanded),
        List.of(new FactRef("policies", best.key())));
  }
}
