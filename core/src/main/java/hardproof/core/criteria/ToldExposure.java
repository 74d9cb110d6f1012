package hardproof.core.criteria;

import hardproof.core.points.ExposureCurve;
import hardproof.core.wording.Wording;
import java.util.List;

/** Exposure over the period, as far as the feed has spoken. */
final class ToldExposure {
  private ToldExposure() {}

  /** There is no time of the period that anything could be said of. */
  static Judgement nothingCounted(Subject s, Measure demanded) {
    return Judgement.of(
        OutcomeState.NOT_ENOUGH_DATA, null, demanded, whyNothing(s), "counted time = 0", List.of());
  }

  private static String whyNothing(Subject s) {
    String last = Wording.duration(s.period());
    return s.horizon().isAfter(s.asAt().minus(s.period()))
        ? s.resource().name() + " was not there yet in the last " + last
        : "its feed has told of nothing in the last " + last + "; it last spoke "
            + Wording.time(s.horizon(), s.asAt());
  }

  /** Said only where the period is not told of to its end. */
  static String upTo(Subject s) {
    return s.horizon().isBefore(s.asAt())
        ? " as far as its feed has spoken (" + Wording.time(s.horizon(), s.asAt()) + ")"
        : "";
  }

  static ExposureCurve.Summary over(Subject s) {
    return s.curve()
        .over(
            s.estate().asAt().minus(s.period()).toEpochMilli(),
            s.horizon().toEpochMilli(),
            s.demand().rpo().toMillis());
  }
}
