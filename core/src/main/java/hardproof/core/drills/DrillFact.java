package hardproof.core.drills;

import hardproof.core.ladder.Rung;
import java.time.Duration;
import java.time.Instant;

/**
 * A drill that has ended, as the evaluation sees it.
 *
 * @param reaches the rung a pass of it shows; less than the method's where nothing could be asked of
 *     what was restored
 * @param worked when restoring and checking were over; {@code ended} comes later where somebody's word was
 *     waited for
 * @param blamedPoint the point that a failure showed to be bad; null when nothing is blamed
 * @param blamedStore the store whose copy is bad; null when the point is bad wherever it lies
 * @param sentence what happened, for people
 */
public record DrillFact(
    String run,
    String resource,
    String point,
    String store,
    Method method,
    Rung reaches,
    RestoreState restore,
    ChecksState checks,
    CleanupState cleanup,
    Instant started,
    Instant worked,
    Instant ended,
    long bytes,
    String blamedPoint,
    String blamedStore,
    String sentence) {

  /** Proof is given only when the restore is done and its checks passed. */
  public boolean passed() {
    return restore == RestoreState.DONE && checks == ChecksState.PASSED;
  }

  /** Says something bad about the data. Interrupted and refused runs say nothing. */
  public boolean failed() {
    return restore == RestoreState.FAILED
        || checks == ChecksState.FAILED
        || checks == ChecksState.TIMED_OUT;
  }

  /** The rung it reached; null unless it passed. */
  public Rung rung() {
    return passed() ? reaches : null;
  }

  /** How long the work took, without the waiting for somebody's word. */
  public Duration took() {
    return Duration.between(started, worked);
  }

  /** The same with another state of its clean-up. */
  public DrillFact withCleanup(CleanupState other) {
    return new DrillFact(
        run,
        resource,
        point,
        store,
        method,
        reaches,
        restore,
        checks,
        other,
        started,
        worked,
        ended,
        bytes,
        blamedPoint,
        blamedStore,
        sentence);
  }
}
