package hardproof.core.estate;

import hardproof.core.wording.Coded;
import java.time.Instant;

/**
 * An accepted deviation. Without a criterion it leaves the whole resource out of judgement; with
 * one, only that criterion's outcome shows as excepted and keeps its arithmetic.
 *
 * @param until exclusive; null means without an end
 * @param refusedBy who said no to the proposal; null when nobody did
 */
public record AcceptedException(
    String key,
    Selector scope,
    String criterion,
    String reason,
    String proposedBy,
    String approvedBy,
    Instant from,
    Instant until,
    String refusedBy) {
  /** Where an exception stands at an instant. */
  public enum State implements Coded {
    PROPOSED,
    REFUSED,
    /** Approved, and its time has not come. */
    AHEAD,
    IN_FORCE,
    ENDED
  }

  /** The same, approved by somebody. */
  public AcceptedException approved(String by) {
    return new AcceptedException(key, scope, criterion, reason, proposedBy, by, from, until, null);
  }

  /** The same, refused by somebody. */
  public AcceptedException refused(String by) {
    return new AcceptedException(key, scope, criterion, reason, proposedBy, null, from, until, by);
  }

  /** The same with another end. */
  public AcceptedException endingAt(Instant end) {
    return new AcceptedException(
        key, scope, criterion, reason, proposedBy, approvedBy, from, end, refusedBy);
  }

  /** Approved by another person than the proposer, begun and not yet over. */
  public boolean validAt(Instant instant) {
    return stateAt(instant) == State.IN_FORCE;
  }

  public State stateAt(Instant instant) {
    if (refusedBy != null) {
      return State.REFUSED;
    }
    if (approvedBy == null || approvedBy.equalsIgnoreCase(proposedBy)) {
      return State.PROPOSED;
    }
    if (from != null && instant.isBefore(from)) {
      return State.AHEAD;
    }
    return until == null || instant.isBefore(until) ? State.IN_FORCE : State.ENDED;
  }
}
