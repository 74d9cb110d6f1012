package hardproof.server.runs;

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
import org.jspecify.annotations.Nullable;

/**
 * A drill run as it is recorded. Null times have not come yet.
 */
public record Run(
    String id,
    DrillFact.Of of,
    Plan plan,
    Order order,
    Times times,
    Waiting waiting,
    DrillFact.Answers answers,
    Hold holding,
    Reading read,
    DrillFact.Blame blame,
    String sentence,
    List<Step> steps) {
  /** How it is drilled. */
  public record Plan(Method method, List<Check> checksAsked, DrillOptions options, Rung reaches) {}

  /** Who asked for it, and why; {@code rehearsal} that it is a member of, null for a drill by itself. */
  public record Order(
      String programme,
      String requestedBy,
      String reason,
      @Nullable String rehearsal) {}

  /**
   * When it went on.
   *
   * @param workedUntil when restoring and checking were over; it ends when its checks are answered
   */
  public record Times(Instant queuedAt, Instant startedAt, Instant workedUntil, Instant endedAt) {}

  /** Whose word it waits for, and until when. */
  public record Waiting(Awaits awaits, Instant awaitUntil) {}

  /** How long what was restored is kept. */
  public record Hold(Duration hold, Instant holdUntil) {}

  /**
   * What was read.
   *
   * @param newestData the newest time that was found in the data; null when none was looked for
   */
  public record Reading(
      long bytes, Duration reading, @Nullable Instant newestData) {}

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
  public Run with(List<Step> others) {
    return new Run(
        id, of, plan, order, times, waiting, answers, holding, read, blame, sentence, others);
  }

  public boolean ended() {
    return endedAt() != null;
  }

  /** Whether it waits for somebody's word. */
  public boolean awaiting() {
    return !ended() && awaits() != Awaits.NOBODY;
  }

  /** The run as the evaluation sees it; only for one that has ended. */
  public DrillFact fact() {
    return new DrillFact(
        id,
        of,
        method(),
        reaches(),
        answers,
        new DrillFact.Times(
            startedAt() == null ? queuedAt() : startedAt(),
            workedUntil() == null ? endedAt() : workedUntil(),
            endedAt()),
        bytes(),
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

  public Method method() {
    return plan.method();
  }

  public List<Check> checksAsked() {
    return plan.checksAsked();
  }

  public DrillOptions options() {
    return plan.options();
  }

  public Rung reaches() {
    return plan.reaches();
  }

  public String programme() {
    return order.programme();
  }

  public String requestedBy() {
    return order.requestedBy();
  }

  public String reason() {
    return order.reason();
  }

  public Instant queuedAt() {
    return times.queuedAt();
  }

  public Instant startedAt() {
    return times.startedAt();
  }

  public Instant workedUntil() {
    return times.workedUntil();
  }

  public Instant endedAt() {
    return times.endedAt();
  }

  public Awaits awaits() {
    return waiting.awaits();
  }

  public Instant awaitUntil() {
    return waiting.awaitUntil();
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

  public Duration hold() {
    return holding.hold();
  }

  public Instant holdUntil() {
    return holding.holdUntil();
  }

  public long bytes() {
    return read.bytes();
  }

  public Duration reading() {
    return read.reading();
  }

  public Instant newestData() {
    return read.newestData();
  }

  public String blamedPoint() {
    return blame.blamedPoint();
  }

  public String blamedStore() {
    return blame.blamedStore();
  }
}
