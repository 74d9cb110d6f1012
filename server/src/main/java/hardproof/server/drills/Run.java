package hardproof.server.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.proving.drills.SqlCheck;
import hardproof.proving.drills.StepState;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/** A drill run as it is recorded. Null times have not come yet. */
public record Run(
    String id,
    String resource,
    String point,
    String store,
    Method method,
    List<SqlCheck> checksAsked,
    String programme,
    String requestedBy,
    String reason,
    Instant queuedAt,
    Instant startedAt,
    Instant endedAt,
    RestoreState restore,
    ChecksState checks,
    CleanupState cleanup,
    Duration hold,
    Instant holdUntil,
    Rung reaches,
    long bytes,
    Duration reading,
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

  public boolean ended() {
    return endedAt != null;
  }

  /** The run as the evaluation sees it; only for one that has ended. */
  public DrillFact fact() {
    return new DrillFact(
        id,
        resource,
        point,
        store,
        method,
        reaches,
        restore,
        checks,
        cleanup,
        startedAt == null ? queuedAt : startedAt,
        endedAt,
        bytes,
        blamedPoint,
        blamedStore,
        sentence);
  }
}
