package hardproof.core.copies;

import hardproof.core.wording.Coded;
import java.time.Duration;
import java.time.Instant;

/**
 * How far a copy came behind its point.
 *
 * @param lag copy finished − point available; while there is no copy, the time waited so far
 */
public record CopyLag(State state, Duration lag, Duration deadline) {
  /** In place of a time: there is none. */
  public static final long NONE = Long.MIN_VALUE;

  /** What a lag means against its deadline. */
  public enum State implements Coded {
    /** Finished within the deadline; at exactly the deadline is within. */
    IN_TIME,
    /** Finished after the deadline. */
    LATE,
    /** Not there yet, still inside the deadline. */
    PENDING,
    /** Not there, and the deadline has passed. */
    MISSING
  }

  /** Whether a copy with this finish, in epoch milliseconds, was there by then; with none it was not. */
  public static boolean there(long finished, long asAt) {
    return finished != NONE && finished <= asAt;
  }

  /**
   * How far past its deadline a copy is, in milliseconds; not above 0 while it is within. All times in
   * epoch milliseconds.
   *
   * @param finished {@link #NONE} when there is no finished copy
   */
  public static long past(long available, long finished, long deadline, long asAt) {
    return (there(finished, asAt) ? finished : asAt) - available - deadline;
  }

  /**
   * @param finished null when there is no finished copy
   */
  public static CopyLag of(Instant available, Instant finished, Duration deadline, Instant asAt) {
    long end = finished == null ? NONE : finished.toEpochMilli();
    long now = asAt.toEpochMilli();
    long past = past(available.toEpochMilli(), end, deadline.toMillis(), now);
    State state = there(end, now)
        ? (past > 0 ? State.LATE : State.IN_TIME)
        : (past > 0 ? State.MISSING : State.PENDING);
    return new CopyLag(state, deadline.plusMillis(past), deadline);
  }
}
