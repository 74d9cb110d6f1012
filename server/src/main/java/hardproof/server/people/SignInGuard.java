package hardproof.server.people;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** Slows down guessing: after five wrong passwords for a name, it waits, each time twice as long. */
final class SignInGuard {
  static final int FREE_TRIES = 5;
  static final Duration FIRST_WAIT = Duration.ofSeconds(30);
  static final Duration LONGEST_WAIT = Duration.ofMinutes(15);
  private static final int NAMES_KEPT = 10_000;

  private record Tries(int failed, Instant until) {}

  private final Map<String, Tries> tries = new ConcurrentHashMap<>();
  private final Clock clock;

  SignInGuard(Clock clock) {
    this.clock = clock;
  }

  private static String key(String name) {
    return name.toLowerCase(Locale.ROOT);
  }

  /** How long this name still has to wait; zero when it may try. */
  Duration waitFor(String name) {
    Tries t = tries.get(key(name));
    if (t == null || !clock.instant().isBefore(t.until())) {
      return Duration.ZERO;
    }
    return Duration.between(clock.instant(), t.until());
  }

  void failed(String name) {
    if (tries.size() > NAMES_KEPT) {
      Instant now = clock.instant();
      tries.values().removeIf(t -> !now.isBefore(t.until()));
    }
    tries.compute(key(name), (k, t) -> {
      int failed = t == null ? 1 : t.failed() + 1;
      if (failed < FREE_TRIES) {
        return new Tries(failed, clock.instant());
      }
      int doublings = Math.min(10, failed - FREE_TRIES);
      Duration wait = FIRST_WAIT.multipliedBy(1L << doublings);
      return new Tries(
          failed, clock.instant().plus(wait.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait));
    });
  }

  void succeeded(String name) {
    tries.remove(key(name));
  }
}
