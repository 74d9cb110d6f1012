package hardproof.core.criteria;

import hardproof.core.points.ExposureCurve;
import hardproof.core.wording.Wording;

/** Exposure over the period, as far as the feed has spoken. */
final class ToldExposure {
  private ToldExposure() {}

  static String nothingCounted(Subject s) {
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
