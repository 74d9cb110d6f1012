package hardproof.server.integrity;

import hardproof.core.wording.Coded;
import java.time.Duration;
import java.time.Instant;

/**
 * A reading of everything on a store.
 *
 * @param bytesPerSecond it reads no faster; null for as fast as it can
 * @param worked time in which it read, pauses left out
 * @param doneBytes of artifacts that were read whole
 */
public record Sweep(
    long id,
    String store,
    State state,
    String requestedBy,
    String reason,
    Long bytesPerSecond,
    Instant plannedAt,
    Instant endedAt,
    Duration worked,
    String sentence,
    int items,
    int done,
    int failed,
    long bytes,
    long doneBytes) {
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
}
