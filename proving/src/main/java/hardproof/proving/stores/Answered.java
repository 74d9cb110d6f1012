package hardproof.proving.stores;

import java.time.Duration;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** Why a store can't be reached, asked again only after a while: for each plan several methods ask. */
final class Answered {
  private static final long HOLDS_NANOS = Duration.ofSeconds(5).toNanos();

  private final Supplier<@Nullable String> asking;
  private @Nullable Long askedNanos;
  private @Nullable String answer;

  /**
   * @param asking gives null where it can be reached
   */
  Answered(Supplier<@Nullable String> asking) {
    this.asking = asking;
  }

  synchronized @Nullable String get() {
    if (askedNanos == null || System.nanoTime() - askedNanos > HOLDS_NANOS) {
      answer = asking.get();
      askedNanos = System.nanoTime();
    }
    return answer;
  }
}
