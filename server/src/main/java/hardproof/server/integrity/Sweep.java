package hardproof.server.integrity;

import hardproof.core.wording.Coded;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A reading of everything on a store.
 *
 * @param worked time in which it read, pauses left out
 */
public record Sweep(
    long id,
    String store,
    State state,
    Order order,
    Instant plannedAt,
    Instant endedAt,
    Duration worked,
    String sentence,
    Amount amount) {
  /**
   * Who asked for it, and how fast it may read.
   *
   * @param bytesPerSecond it reads no faster; null for as fast as it can
   */
  public record Order(
      String requestedBy, String reason, @Nullable Long bytesPerSecond) {}

  /**
   * How much there is to read, and how much of it is done.
   *
   * @param doneBytes of artifacts that were read whole
   */
  public record Amount(int items, int done, int failed, long bytes, long doneBytes) {}

  /** How far it is. */
  public enum State implements Coded {
    RUNNING,
    PAUSED,
    DONE,
    CANCELLED
  }

  /** An artifact that a sweep has to read. */
  record Item(long sweep, int number, String resource, String point, long sizeBytes) {}

  public boolean ended() {
    return endedAt != null;
  }

  public String requestedBy() {
    return order.requestedBy();
  }

  public String reason() {
    return order.reason();
  }

  public Long bytesPerSecond() {
    return order.bytesPerSecond();
  }

  public int items() {
    return amount.items();
  }

  public int done() {
    return amount.done();
  }

  public int failed() {
    return amount.failed();
  }

  public long bytes() {
    return amount.bytes();
  }

  public long doneBytes() {
    return amount.doneBytes();
  }
}
