package hardproof.core.programmes;

import hardproof.core.wording.Coded;
import hardproof.core.wording.Wording;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/**
 * Which of a resource's usable recovery points a programme drills.
 *
 * @param within for {@link Way#RANDOM}: only points whose data is at most so old; null for all that are kept
 * @param sample for {@link Way#RANDOM}: so many of the points of all resources, each with the same chance; null for one
 *     of each resource
 */
public record PointChoice(
    Way way, @Nullable Duration within, @Nullable Integer sample) {
  /** More than a start could sensibly drill. */
  private static final int SAMPLE_AT_MOST = 10_000;

  /** What programmes did before they could choose. */
  public static final PointChoice NEWEST = new PointChoice(Way.NEWEST, null);

  /** How the point is chosen. */
  public enum Way implements Coded {
    NEWEST("the newest"),
    /** Drawn so that anybody can draw it again ({@link Draw}); only such a drill says something of the others. */
    RANDOM("one drawn at random"),
    OLDEST("the oldest kept"),
    /** The one not drilled for longest; one that never was comes first. */
    IN_TURN("each in turn"),
    /** Of odd size, else of the longest chain. */
    RISKIEST("the riskiest");

    private final String words;

    Way(String words) {
      this.words = words;
    }
  }

  /** One point of each resource. */
  public PointChoice(Way way, @Nullable Duration within) {
    this(way, within, null);
  }

  /**
   * @throws WrongValue where an age or a number is given that is not asked, or is nothing
   */
  public PointChoice {
    if (sample != null && way != Way.RANDOM) {
      throw new WrongValue("a number of points is drawn at random, and in no other way");
    }
    if (sample != null && (sample < 1 || sample > SAMPLE_AT_MOST)) {
      throw new WrongValue("a start draws 1 to 10,000 points, not " + sample);
    }
    if (within != null && way != Way.RANDOM) {
      throw new WrongValue("an age bounds what is drawn at random, and nothing else");
    }
    if (within != null && (within.isZero() || within.isNegative())) {
      throw new WrongValue("the points to draw from can't be " + Wording.duration(within) + " old");
    }
  }

  /** For people. */
  public String words() {
    String what = sample == null
        ? way.words
        : Wording.count(sample, "point", "points") + " drawn at random of all";
    return within == null ? what : what + " of the last " + Wording.duration(within);
  }
}
