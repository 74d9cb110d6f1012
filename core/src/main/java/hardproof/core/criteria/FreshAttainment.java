package hardproof.core.criteria;

import hardproof.core.points.ExposureCurve;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;

/** For how much of the period the objective was kept. */
final class FreshAttainment extends ShippedCriterion {
  FreshAttainment() {
    super(
        Group.FRESHNESS,
        "Attainment",
        "The RPO was kept for the share of the period that the tier demands.",
        List.of("NIST CP-9"),
        Parameter.RPO,
        Parameter.ATTAINMENT);
  }

  @Override
  Judgement judge(Subject s) {
    ExposureCurve.Summary summary = ToldExposure.over(s);
    double floor = s.demand().attainment();
    if (summary.attainment().isEmpty()) {
      return ToldExposure.nothingCounted(s, Measure.share(floor));
    }
    return judged(s, summary, floor);
  }

  private static Judgement judged(Subject s, ExposureCurve.Summary summary, double floor) {
    double attained = summary.attainment().getAsDouble();
    return Judgement.of(
        OutcomeState.metIf(attained >= floor),
        Measure.share(attained),
        Measure.share(floor),
        "exposure was within the " + Wording.duration(s.demand().rpo()) + " objective for "
            + Wording.share(attained) + " of the last "
            + Wording.duration(Duration.ofMillis(summary.counted())) + ToldExposure.upTo(s) + "; "
            + Wording.share(floor)
            + " is demanded",
        Wording.duration(Duration.ofMillis(summary.within())) + " within RPO ÷ "
            + Wording.duration(Duration.ofMillis(summary.counted())) + " counted = "
            + Wording.share(attained)
            + atLeast(attained >= floor) + Wording.share(floor),
        List.of());
  }
}
