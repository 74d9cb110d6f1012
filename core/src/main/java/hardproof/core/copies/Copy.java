package hardproof.core.copies;

import java.time.Instant;

/**
 * A point on a store.
 *
 * @param finished when it was completely written; null when not known or not yet
 * @param place path of the artifact below the store's path
 * @param sha256 of the artifact, lower-case hex
 * @param manifest SHA-256 of the manifest that lies beside the artifact
 * @param lastReadPassed what its last read-back came to; null when there was none
 * @param recordedAt when this state of the copy became known to us
 * @param feed the feed that told of it; null where not known
 */
public record Copy(
    String point,
    String store,
    Instant finished,
    CopyState state,
    Instant lockedUntil,
    Instant expires,
    String format,
    String place,
    String sha256,
    String manifest,
    Instant lastRead,
    Boolean lastReadPassed,
    Instant recordedAt,
    String feed) {

  /** Whether it can't be altered at an instant: locked until later than that. */
  public boolean lockedAt(Instant instant) {
    return lockedUntil != null && lockedUntil.isAfter(instant);
  }
}
