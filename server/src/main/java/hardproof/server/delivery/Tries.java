package hardproof.server.delivery;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** When what nobody took is tried again: with growing waits, and not for ever. */
public final class Tries {
  /** Waits after each try that failed; after the last one it is given up. */
  public static final List<Duration> WAITS = List.of(
      Duration.ofMinutes(1),
      Duration.ofMinutes(5),
      Duration.ofMinutes(30),
      Duration.ofHours(2),
      Duration.ofHours(6));

  private Tries() {}

  /**
   * @param before how often it was tried before this time
   * @return empty where it is given up
   */
  public static Optional<Instant> next(int before, Instant now) {
    return before >= WAITS.size() ? Optional.empty() : Optional.of(now.plus(WAITS.get(before)));
  }
}
