package hardproof.core.recovery;

import hardproof.core.schedule.RunTimes;
import hardproof.core.wording.Coded;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;

/**
 * How long a drill will take, and how that is known.
 *
 * @param median as long as that, or longer, as often as not
 * @param p95 longer than that one time in twenty
 * @param drills how many were measured; 0 where the store's own figure is all there is
 * @param bytes of what it is an estimate
 * @param measuredBytes the most that any of those drills read; 0 where there is none
 */
public record TimeEstimate(
    Duration median, Duration p95, Source source, int drills, long bytes, long measuredBytes) {

  /** More than this many times what was measured is no measurement any more. */
  private static final double FAR = 1.5;

  /** How it is known, the best first. */
  public enum Source implements Coded {
    OWN("its own drills"),
    LIKE("drills of the same kind from the same store"),
    STORE("what its store is said to read");

    private final String words;

    Source(String words) {
      this.words = words;
    }
  }

  static TimeEstimate of(Source source, List<Measured> measured, List<Duration> each, long bytes) {
    RunTimes times = RunTimes.of(each);
    long most = measured.stream().mapToLong(Measured::bytes).max().orElse(0);
    return new TimeEstimate(times.median(), times.p95(), source, measured.size(), bytes, most);
  }

  /** Whether nothing near so large was ever measured. */
  public boolean extrapolated() {
    return bytes > FAR * measuredBytes;
  }

  /** For people: {@code about 12 m, 19 m at most 19 times of 20, by 4 of its own drills}. */
  public String words() {
    String spread = p95.equals(median) ? "" : ", " + Wording.duration(p95) + " at most in 19 of 20";
    return "about " + Wording.duration(median) + spread + ", by " + sourceWords();
  }

  private String sourceWords() {
    String by = drills > 0 ? drills + " of " + source.words : source.words;
    return extrapolated() && measuredBytes > 0
        ? by + ", scaled from " + Wording.bytes(measuredBytes) + " to " + Wording.bytes(bytes)
        : by;
  }
}
