package hardproof.core.estate;

import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Where facts came from.
 *
 * @param expectedEvery how often it should come; null where nobody has said
 * @param horizon the instant up to which it has spoken: what a delivery says of itself, else the newest
 *     instant that a row of it speaks of; null where neither is known
 */
public record Feed(
    String key,
    @Nullable Duration expectedEvery,
    Instant lastReceived,
    @Nullable Instant horizon) {

  /** Over its rhythm: silent for longer than {@code expectedEvery}. At exactly that it is not. */
  public boolean overdueAt(Instant instant) {
    return expectedEvery != null
        && lastReceived != null
        && Duration.between(lastReceived, instant).compareTo(expectedEvery) > 0;
  }

  public String overdueSentence(Instant instant) {
    return "feed "
        + key
        + " last came "
        + Wording.time(lastReceived, instant)
        + ", "
        + Wording.duration(Duration.between(lastReceived, instant))
        + " ago; it is expected every "
        + Wording.duration(expectedEvery);
  }
}
