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

  /**
   * @param finished null when there is no finished copy
   */
  public static CopyLag of(Instant available, Instant finished, Duration deadline, Instant asAt) {
    boolean there = finished != null && !finished.isAfter(asAt);
    Duration lag = Duration.between(available, there ? finished : asAt);
    boolean over = lag.compareTo(deadline) > 0;
    State state =
        there ? (over ? State.LATE : State.IN_TIME) : (over ? State.MISSING : State.PENDING);
    return new CopyLag(state, lag, deadline);
  }
}
