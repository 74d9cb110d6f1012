package hardproof.core.points;

import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Something a resource can be brought back to. Null means not known.
 *
 * @param basedOn the point it hangs from; null for one that stands alone
 * @param feed the feed that told of it
 */
public record RecoveryPoint(
    String key,
    String resource,
    @Nullable String policy,
    Form form,
    @Nullable String basedOn,
    Times times,
    PointOutcome outcome,
    Taken taken,
    Content content,
    String feed) {
  /**
   * When it was made.
   *
   * @param dataTime the instant its contents are consistent as of; age and loss are counted from it
   * @param started when its job began
   * @param available when it could first be restored; null while it is still being made
   */
  public record Times(
      Instant dataTime, @Nullable Instant started, @Nullable Instant available) {}

  /**
   * How it was taken.
   *
   * @param preStep whether the step before it (a checkpoint, telling the application) ran
   */
  public record Taken(
      Consistency consistency,
      @Nullable Boolean preStep,
      @Nullable SourceRole sourceRole) {}

  /**
   * What it holds.
   *
   * @param skippedItems how many items it was to hold and does not
   */
  public record Content(
      @Nullable Long sizeBytes,
      @Nullable Boolean encrypted,
      @Nullable Long skippedItems) {}

  /**
   * From the start of its job (where that is not known, from its data time) until it was available;
   * null while it is being made.
   */
  public Duration runTime() {
    return times.available() == null
        ? null
        : Duration.between(
            times.started() == null ? times.dataTime() : times.started(), times.available());
  }

  public Instant dataTime() {
    return times.dataTime();
  }

  public @Nullable Instant started() {
    return times.started();
  }

  public @Nullable Instant available() {
    return times.available();
  }

  public Consistency consistency() {
    return taken.consistency();
  }

  public @Nullable Boolean preStep() {
    return taken.preStep();
  }

  public @Nullable SourceRole sourceRole() {
    return taken.sourceRole();
  }

  public @Nullable Long sizeBytes() {
    return content.sizeBytes();
  }

  public @Nullable Boolean encrypted() {
    return content.encrypted();
  }

  public @Nullable Long skippedItems() {
    return content.skippedItems();
  }
}
