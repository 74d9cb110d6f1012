package hardproof.core.points;

import java.time.Duration;
import java.time.Instant;

/**
 * Something a resource can be brought back to. Null means not known.
 *
 * @param dataTime the instant its contents are consistent as of; age and loss are counted from it
 * @param started when its job began
 * @param available when it could first be restored; null while it is still being made
 * @param basedOn the point it hangs from; null for one that stands alone
 * @param preStep whether the step before it (a checkpoint, telling the application) ran
 * @param skippedItems how many items it was to hold and does not
 * @param feed the feed that told of it
 */
public record RecoveryPoint(
    String key,
    String resource,
    String policy,
    Form form,
    String basedOn,
    Instant dataTime,
    Instant started,
    Instant available,
    PointOutcome outcome,
    Consistency consistency,
    Boolean preStep,
    SourceRole sourceRole,
    Long sizeBytes,
    Boolean encrypted,
    Long skippedItems,
    String feed) {

  /**
   * From the start of its job (where that is not known, from its data time) until it was available;
   * null while it is being made.
   */
  public Duration runTime() {
    return available == null
        ? null
        : Duration.between(started == null ? dataTime : started, available);
  }
}
