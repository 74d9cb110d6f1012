package hardproof.core.survival;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** The feeds of an estate as small numbers. Safe for many threads. */
final class FeedNumbers {
  private final Map<String, Integer> numbers = new ConcurrentHashMap<>();
  private final AtomicInteger next = new AtomicInteger();

  /** −1 where the feed is not known. */
  int of(@Nullable String feed) {
    return feed == null ? -1 : numbers.computeIfAbsent(feed, f -> next.getAndIncrement());
  }

  /** Which of them, by their numbers. */
  boolean[] those(Predicate<String> which) {
    boolean[] those = new boolean[next.get()];
    numbers.forEach((feed, number) -> those[number] = which.test(feed));
    return those;
  }
}
