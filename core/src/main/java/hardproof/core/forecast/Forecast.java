package hardproof.core.forecast;

import hardproof.core.wording.Coded;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What the coming nights will hold if every drill passes and points go on being made as they are.
 *
 * @param gaps times in which a demanded proof is missing, soonest first
 * @param starts of drills, in the order in which they begin
 */
public record Forecast(
    Instant from, Instant until, List<Night> nights, List<Gap> gaps, List<Start> starts) {

  /** How a gap says that nothing would renew it but a programme that somebody opens. */
  public static final String NO_PROGRAMME = "no programme drills it";

  /** How it says that only a sample might. */
  public static final String BY_CHANCE =
      "draws a sample of all points, and whether it is among them nobody knows before";

  /**
   * A night, up to the opening of the next.
   *
   * @param drills that begin in it
   * @param busy time that drills take of it, added up
   * @param room time that drills could take of its hours, added up
   */
  public record Night(
      Instant opens, Instant closes, int drills, Duration busy, Duration room, long bytes) {}

  /** A drill that begins. */
  public record Start(String resource, String programme, Instant at) {}

  /**
   * A time in which a proof that is demanded is missing.
   *
   * @param resource key
   * @param from when the proof lapses; the instant of the forecast where it is missing already
   * @param lapsing false where it is missing already
   * @param until when it is proven again; null where that is not within the forecast
   * @param sentence why, for people
   */
  public record Gap(
      String resource,
      String name,
      Instant from,
      boolean lapsing,
      @Nullable Instant until,
      Why why,
      String sentence) {}

  /** Why a proof is missing for a time. */
  public enum Why implements Coded {
    NO_PROGRAMME,
    /** Nothing of it can be drilled. */
    NO_POINT,
    /** A programme draws a sample of all, and nobody knows before of what. */
    BY_CHANCE,
    TOO_WEAK,
    NIGHT_TOO_SHORT,
    CAPACITY,
    TOO_SELDOM
  }

  /** Proofs that lapse, or are missing, and that nothing renews within the forecast. */
  public List<Gap> neverRenewed() {
    return gaps.stream().filter(g -> g.until() == null).toList();
  }

  /** How long proofs are missing within the forecast, added up. */
  public Duration missing() {
    return gaps.stream()
        .map(g -> Duration.between(g.from(), g.until() == null ? until : g.until()))
        .reduce(Duration.ZERO, Duration::plus);
  }
}
