package hardproof.server.people;

import hardproof.server.web.TooMany;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;

/**
 * Slows down guessing: after five wrong passwords for a name from one address, that address waits for that
 * name, each time twice as long; after fifty for whatever names, it waits for all. Nobody can lock a person
 * out who comes from another address.
 */
final class SignInGuard {
  static final int FREE_TRIES = 5;
  static final int FREE_TRIES_OF_ADDRESS = 50;
  static final Duration FIRST_WAIT = Duration.ofSeconds(30);
  static final Duration LONGEST_WAIT = Duration.ofMinutes(5);
  static final int KEPT = 10_000;

  /** How long a failure counts. */
  private static final Duration FORGOTTEN_AFTER = Duration.ofHours(1);

  private record Tries(int failed, Instant last, Instant until) {}

  /** The least recently used go first, so that whoever fills it only forgets. */
  private final Map<String, Tries> tries = new LinkedHashMap<>(64, 0.75f, true) {
    private static final long serialVersionUID = 1L;

    @Override
    protected boolean removeEldestEntry(Map.Entry<String, Tries> eldest) {
      return size() > KEPT;
    }
  };

  private final Clock clock;

  SignInGuard(Clock clock) {
    this.clock = clock;
  }

  private static String key(String name, String address) {
    String small = name.toLowerCase(Locale.ROOT);
    return address + " " + (small.length() > 100 ? small.substring(0, 100) : small);
  }

  /** How long this name still has to wait from this address; zero when it may try. */
  synchronized Duration waitFor(String name, String address) {
    Instant now = clock.instant();
    Duration longest = Duration.ZERO;
    for (String key : new String[] {key(name, address), address}) {
      Tries t = tries.get(key);
      if (t != null && now.isBefore(t.until())) {
        Duration wait = Duration.between(now, t.until());
        longest = wait.compareTo(longest) > 0 ? wait : longest;
      }
    }
    return longest;
  }

  /**
   * @throws TooMany when it has to wait, saying how long
   */
  void waitOrRefuse(String name, String address) {
    Duration wait = waitFor(name, address);
    if (!wait.isZero()) {
      throw new TooMany(wait);
    }
  }

  synchronized void failed(String name, String address) {
    failed(key(name, address), FREE_TRIES);
    failed(address, FREE_TRIES_OF_ADDRESS);
  }

  private void failed(String key, int free) {
    Instant now = clock.instant();
    Tries before = tries.get(key);
    boolean forgotten =
        before == null || Duration.between(before.last(), now).compareTo(FORGOTTEN_AFTER) > 0;
    int failed = forgotten ? 1 : before.failed() + 1;
    Duration wait = Duration.ZERO;
    if (failed >= free) {
      wait = FIRST_WAIT.multipliedBy(1L << Math.min(10, failed - free));
      wait = wait.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait;
    }
    tries.put(key, new Tries(failed, now, now.plus(wait)));
  }

  synchronized void succeeded(String name, String address) {
    tries.remove(key(name, address));
  }

  synchronized int kept() {
    return tries.size();
  }
}
