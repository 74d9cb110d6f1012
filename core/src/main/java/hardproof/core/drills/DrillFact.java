package hardproof.core.drills;

import hardproof.core.ladder.Rung;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A drill that has ended, as the evaluation sees it.
 *
 * @param reaches the rung a pass of it shows; less than the method's where nothing could be asked of
 *     what was restored
 * @param sentence what happened, for people
 */
public record DrillFact(
    String run,
    Of of,
    Method method,
    Rung reaches,
    Answers answers,
    Times times,
    long bytes,
    Blame blame,
    String sentence) {
  /** What was drilled. */
  public record Of(String resource, String point, String store) {}

  /** The three answers of a drill: what was restored, what its checks said, and whether nothing was left. */
  public record Answers(RestoreState restore, ChecksState checks, CleanupState cleanup) {}

  /**
   * When it went on.
   *
   * @param worked when restoring and checking were over; {@code ended} comes later where somebody's word was
   *     waited for
   */
  public record Times(Instant started, Instant worked, Instant ended) {}

  /**
   * What a failure showed to be bad.
   *
   * @param blamedPoint the point that a failure showed to be bad; null when nothing is blamed
   * @param blamedStore the store whose copy is bad; null when the point is bad wherever it lies
   */
  public record Blame(
      @Nullable String blamedPoint, @Nullable String blamedStore) {}

  /** Proof is given only when the restore is done and its checks passed. */
  public boolean passed() {
    return answers.restore() == RestoreState.DONE && answers.checks() == ChecksState.PASSED;
  }

  /** Says something bad about the data. Interrupted and refused runs say nothing. */
  public boolean failed() {
    return answers.restore() == RestoreState.FAILED
        || answers.checks() == ChecksState.FAILED
        || answers.checks() == ChecksState.TIMED_OUT;
  }

  /** The rung it reached; null unless it passed. */
  public Rung rung() {
    return passed() ? reaches : null;
  }

  /** How long the work took, without the waiting for somebody's word. */
  public Duration took() {
    return Duration.between(times.started(), times.worked());
  }

  /** The same, showing more: as a member of a rehearsal. */
  public DrillFact reaching(Rung other) {
    return new DrillFact(run, of, method, other, answers, times, bytes, blame, sentence);
  }

  /** The same with another state of its clean-up. */
  public DrillFact withCleanup(CleanupState other) {
    return new DrillFact(
        run,
        of,
        method,
        reaches,
        new Answers(answers.restore(), answers.checks(), other),
        times,
        bytes,
        blame,
        sentence);
  }

  public String resource() {
    return of.resource();
  }

  public String point() {
    return of.point();
  }

  public String store() {
    return of.store();
  }

  public RestoreState restore() {
    return answers.restore();
  }

  public ChecksState checks() {
    return answers.checks();
  }

  public CleanupState cleanup() {
    return answers.cleanup();
  }

  public Instant started() {
    return times.started();
  }

  public Instant worked() {
    return times.worked();
  }

  public Instant ended() {
    return times.ended();
  }

  public @Nullable String blamedPoint() {
    return blame.blamedPoint();
  }

  public @Nullable String blamedStore() {
    return blame.blamedStore();
  }
}
