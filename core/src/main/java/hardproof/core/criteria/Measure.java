package hardproof.core.criteria;

import hardproof.core.wording.Coded;
import hardproof.core.wording.Wording;
import java.time.Duration;

/** A number with its unit. */
public record Measure(double value, Unit unit) {
  /** Units of measures. */
  public enum Unit implements Coded {
    MILLISECONDS,
    COUNT,
    /** Between 0 and 1. */
    SHARE,
    RUNG,
    /** A number without a unit. */
    SCORE
  }

  public static Measure of(Duration duration) {
    return new Measure(duration.toMillis(), Unit.MILLISECONDS);
  }

  public static Measure count(long count) {
    return new Measure(count, Unit.COUNT);
  }

  public static Measure share(double share) {
    return new Measure(share, Unit.SHARE);
  }

  public static Measure score(double score) {
    return new Measure(score, Unit.SCORE);
  }

  /** For people. */
  public String words() {
    return switch (unit) {
      case MILLISECONDS -> Wording.duration(Duration.ofMillis((long) value));
      case SHARE -> Wording.share(value);
      case SCORE -> Wording.fixed(value, 2);
      default -> Wording.fixed(value, 0);
    };
  }
}
