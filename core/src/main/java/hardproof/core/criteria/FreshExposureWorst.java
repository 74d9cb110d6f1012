package hardproof.core.criteria;

import hardproof.core.points.ExposureCurve;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/** What would have been lost at the worst moment of the period. */
final class FreshExposureWorst extends ShippedCriterion {
  FreshExposureWorst() {
    super(
        Group.FRESHNESS,
        "Worst exposure",
        "At no moment of the period would more than the RPO have been lost.",
        List.of("NIST CP-9"),
        Parameter.RPO);
  }

  @Override
  Judgement judge(Subject s) {
    ExposureCurve.Summary summary = ToldExposure.over(s);
    Duration rpo = s.demand().rpo();
    String span = Wording.duration(s.period());
    if (summary.counted() == 0) {
      return ToldExposure.nothingCounted(s, Measure.of(rpo));
    }
    Instant worstAt = Instant.ofEpochMilli(summary.worstAt());
    if (summary.worst().isEmpty()) {
      return withoutPoint(s, rpo, span, worstAt);
    }
    return judged(s, summary, rpo, span, worstAt);
  }

  private static Judgement withoutPoint(Subject s, Duration rpo, String span, Instant worstAt) {
    return Judgement.of(
        OutcomeState.NOT_MET,
        null,
        Measure.of(rpo),
        "from " + Wording.time(worstAt, s.asAt()) + " on, within the last " + span
            + ToldExposure.upTo(s) + ", there was no usable point at all",
        "exposure, demanded ≤ " + Wording.duration(rpo)
            + "; it is without limit while no point is usable",
        List.of());
  }

  private static Judgement judged(
      Subject s, ExposureCurve.Summary summary, Duration rpo, String span, Instant worstAt) {
    Duration worst = Duration.ofMillis(summary.worst().getAsLong());
    boolean met = worst.compareTo(rpo) <= 0;
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.of(worst),
        Measure.of(rpo),
        "in the last " + span + ToldExposure.upTo(s) + " at most " + Wording.duration(worst)
            + " would have been lost (at "
            + Wording.time(worstAt, s.asAt()) + "), "
            + Wording.duration(worst.minus(rpo).abs())
            + (met ? " inside the " : " over the ") + Wording.duration(rpo) + " objective",
        "max over the teeth of (end of tooth − newest usable data time) = "
            + Wording.duration(worst) + atMost(met) + "RPO " + Wording.duration(rpo),
        List.of());
  }
}
