package hardproof.core.points;

import java.time.Instant;

/**
 * Something a resource can be brought back to.
 *
 * @param dataTime the instant its contents are consistent as of; age and loss are counted from it
 * @param available when it could first be restored; null while it is still being made
 * @param basedOn the point it hangs from; null for one that stands alone
 */
public record RecoveryPoint(
    String key,
    String resource,
    String policy,
    Form form,
    String basedOn,
    Instant dataTime,
    Instant available,
    PointOutcome outcome,
    Consistency consistency,
    Long sizeBytes,
    Boolean encrypted) {}
