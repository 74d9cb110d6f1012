package hardproof.core.copies;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A point on a store.
 *
 * @param finished when it was completely written; null when not known or not yet
 * @param recordedAt when this state of the copy became known to us
 * @param feed the feed that told of it; null where not known
 */
public record Copy(
    String point,
    String store,
    @Nullable Instant finished,
    CopyState state,
    @Nullable Instant lockedUntil,
    @Nullable Instant expires,
    Artifact artifact,
    ReadBack readBack,
    Instant recordedAt,
    @Nullable String feed) {
  /**
   * What lies on the store.
   *
   * @param place path of the artifact below the store's path
   * @param sha256 of the artifact, lower-case hex
   * @param manifest SHA-256 of the manifest that lies beside the artifact
   */
  public record Artifact(
      @Nullable String format,
      @Nullable String place,
      @Nullable String sha256,
      @Nullable String manifest) {}

  /**
   * What its last read-back came to.
   *
   * @param lastReadPassed what its last read-back came to; null when there was none
   */
  public record ReadBack(
      @Nullable Instant lastRead, @Nullable Boolean lastReadPassed) {}

  /** Whether it can't be altered at an instant: locked until later than that. */
  public boolean lockedAt(Instant instant) {
    return lockedUntil != null && lockedUntil.isAfter(instant);
  }

  public @Nullable String format() {
    return artifact.format();
  }

  public @Nullable String place() {
    return artifact.place();
  }

  public @Nullable String sha256() {
    return artifact.sha256();
  }

  public @Nullable String manifest() {
    return artifact.manifest();
  }

  public @Nullable Instant lastRead() {
    return readBack.lastRead();
  }

  public @Nullable Boolean lastReadPassed() {
    return readBack.lastReadPassed();
  }
}
