package hardproof.core.estate;

import java.time.Instant;

/**
 * An accepted deviation. Without a criterion it leaves the whole resource out of judgement; with
 * one, only that criterion's outcome shows as excepted and keeps its arithmetic.
 *
 * @param until exclusive; null means without an end
 */
public record AcceptedException(
    String key,
    Selector scope,
    String criterion,
    String reason,
    String proposedBy,
    String approvedBy,
    Instant from,
    Instant until) {

  /** Approved by another person than the proposer, begun and not yet over. */
  public boolean validAt(Instant instant) {
    return approvedBy != null
        && !approvedBy.equalsIgnoreCase(proposedBy)
        && (from == null || !instant.isBefore(from))
        && (until == null || instant.isBefore(until));
  }
}
