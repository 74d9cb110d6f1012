package hardproof.core.estate;

import hardproof.core.wording.Coded;
import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * An accepted deviation. Without a criterion it leaves the whole resource out of judgement; with
 * one, only that criterion's outcome shows as excepted and keeps its arithmetic.
 *
 * @param approvedBy who approved it here; null when nobody has
 * @param until exclusive; null means without an end
 * @param refusedBy who said no to the proposal; null when nobody did
 * @param claimedApprover who approved it, as the feed that brought it says: no more than a word, as a feed
 *     can say anything; null where none says so
 */
public record AcceptedException(
    String key,
    Selector scope,
    String criterion,
    String reason,
    String proposedBy,
    @Nullable String approvedBy,
    Instant from,
    @Nullable Instant until,
    @Nullable String refusedBy,
    @Nullable String claimedApprover) {
  /** Where an exception stands at an instant. */
  public enum State implements Coded {
    PROPOSED,
    REFUSED,
    /** Approved, and its time has not come. */
    AHEAD,
    IN_FORCE,
    ENDED
  }

  /** One that nobody claims to have approved elsewhere. */
  public AcceptedException(
      String key,
      Selector scope,
      String criterion,
      String reason,
      String proposedBy,
      String approvedBy,
      Instant from,
      Instant until,
      String refusedBy) {
    this(key, scope, criterion, reason, proposedBy, approvedBy, from, until, refusedBy, null);
  }

  /** The same under another key. */
  public AcceptedException named(String other) {
    return new AcceptedException(
        other,
        scope,
        criterion,
        reason,
        proposedBy,
        approvedBy,
        from,
        until,
        refusedBy,
        claimedApprover);
  }

  /** The same, proposed by somebody. */
  public AcceptedException proposed(String by) {
    return new AcceptedException(
        key, scope, criterion, reason, by, approvedBy, from, until, refusedBy, claimedApprover);
  }

  /** Whether it accepts the same for the same time and reason, whoever says so. */
  public boolean sameTerms(AcceptedException other) {
    return scope.equals(other.scope)
        && Objects.equals(criterion, other.criterion)
        && reason.equals(other.reason)
        && Objects.equals(from, other.from)
        && Objects.equals(until, other.until);
  }

  /** The same, approved by somebody. */
  public AcceptedException approved(String by) {
    return new AcceptedException(
        key, scope, criterion, reason, proposedBy, by, from, until, null, claimedApprover);
  }

  /** The same, refused by somebody. */
  public AcceptedException refused(String by) {
    return new AcceptedException(
        key, scope, criterion, reason, proposedBy, null, from, until, by, claimedApprover);
  }

  /** The same with another end. */
  public AcceptedException endingAt(Instant end) {
    return new AcceptedException(
        key,
        scope,
        criterion,
        reason,
        proposedBy,
        approvedBy,
        from,
        end,
        refusedBy,
        claimedApprover);
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
