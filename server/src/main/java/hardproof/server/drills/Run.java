package hardproof.server.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.proving.checks.Check;
import hardproof.proving.drills.DrillOptions;
import hardproof.proving.drills.DrillResult.Awaits;
import hardproof.proving.drills.StepState;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/**
 * A drill run as it is recorded. Null times have not come yet.
 *
 * @param workedUntil when restoring and checking were over; it ends when its checks are answered
 * @param newestData the newest time that was found in the data; null when none was looked for
 */
public record Run(
    String id,
    String resource,
    String point,
    String store,
    Method method,
    List<Check> checksAsked,
    DrillOptions options,
    String programme,
    String requestedBy,
    String reason,
    Instant queuedAt,
    Instant startedAt,
    Instant workedUntil,
    Instant endedAt,
    Awaits awaits,
    Instant awaitUntil,
    RestoreState restore,
    ChecksState checks,
    CleanupState cleanup,
    Duration hold,
    Instant holdUntil,
    Rung reaches,
    long bytes,
    Duration reading,
    Instant newestData,
    String blamedPoint,
    String blamedStore,
    String sentence,
    List<Step> steps) {
  /** One step of a run. */
  public record Step(
      int number,
      String name,
      StepState state,
      Instant startedAt,
      Instant endedAt,
      long doneBytes,
      long totalBytes,
      String message) {}

  /** The same with its steps. */
  Run with(List<Step> others) {
    return new Run(
        id,
        resource,
        point,
        store,
        method,
        checksAsked,
        options,
        programme,
        requestedBy,
        reason,
        queuedAt,
        startedAt,
        workedUntil,
        endedAt,
        awaits,
        awaitUntil,
        restore,
        checks,
        cleanup,
        hold,
        holdUntil,
        reaches,
        bytes,
        reading,
        newestData,
        blamedPoint,
        blamedStore,
        sentence,
        others);
  }

  public boolean ended() {
    return endedAt != null;
  }

  /** Whether it waits for somebody's word. */
  public boolean awaiting() {
    return !ended() && awaits != Awaits.NOBODY;
  }

  /** The run as the evaluation sees it; only for one that has ended. */
  public DrillFact fact() {
    return new DrillFact(
        id,
        new DrillFact.Of(resource, point, store),
        method,
        reaches,
        new DrillFact.Answers(restore, checks, cleanup),
        new DrillFact.Times(
            startedAt == null ? queuedAt : startedAt,
            workedUntil == null ? endedAt : workedUntil,
            endedAt),
        bytes,
        new DrillFact.Blame(blamedPoint, blamedStore),
        sentence);
  }
}
