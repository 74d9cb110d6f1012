package hardproof.server.drills;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.facts.Estate;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.drills.DrillOptions;
import hardproof.proving.drills.StepState;
import hardproof.server.runs.Run;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A run as screens see it. Codes for states; durations in milliseconds.
 */
public record RunView(
    String id,
    @JsonUnwrapped Of of,
    @JsonUnwrapped Point from,
    Method method,
    @JsonUnwrapped Order order,
    @JsonUnwrapped Times times,
    @JsonUnwrapped Waiting waiting,
    @JsonUnwrapped Answers answers,
    @JsonUnwrapped Result result,
    @JsonUnwrapped Reading read,
    @JsonUnwrapped Asked asked,
    List<RunStep> steps) {
  /** What was drilled. */
  public record Of(
      String resource,
      String resourceName,
      String workload,
      @Nullable String workloadName) {}

  /** From which point, and from where. */
  public record Point(
      String point, @Nullable Instant pointDataTime, String store, String storeName) {}

  /** Who asked for it, and why; {@code rehearsal} that it is a member of. */
  public record Order(
      @Nullable String programme,
      String requestedBy,
      String reason,
      @Nullable String rehearsal) {}

  /** When it went on. */
  public record Times(
      Instant queuedAt,
      @Nullable Instant startedAt,
      @Nullable Instant workedUntil,
      @Nullable Instant endedAt) {}

  /** Whose word it waits for, and until when; and until when what was restored is held. */
  public record Waiting(
      @Nullable String awaits,
      @Nullable Instant awaitUntil,
      @Nullable Instant holdUntil) {}

  /** The three answers of a drill. */
  public record Answers(RestoreState restore, ChecksState checks, CleanupState cleanup) {}

  /** What it showed. */
  public record Result(int reaches, boolean passed, boolean ended, String sentence) {}

  /**
   * What was read.
   *
   * @param bytesPerSecond while reading; null when too little was read to say
   */
  public record Reading(
      long bytes, @Nullable Long bytesPerSecond, @Nullable Instant newestData) {}

  /** What was asked of what was restored, and how. */
  public record Asked(List<CheckView> checksAsked, RunOptions options) {}

  /** A step; {@code totalBytes} 0 when not known. */
  public record RunStep(
      int number,
      String name,
      StepState state,
      @Nullable Instant startedAt,
      @Nullable Instant endedAt,
      long doneBytes,
      long totalBytes,
      String message) {}

  /** A check; {@code expected} empty where its type needs nothing. */
  public record CheckView(CheckType type, String subject, String expected) {
    public static CheckView of(Check check) {
      return new CheckView(check.type(), check.subject(), check.expected());
    }

    /**
     * @throws WrongValue saying what is wrong with it
     */
    public Check check() {
      if (type == null) {
        throw new WrongValue("say of which type the check is: " + Coded.codes(CheckType.class));
      }
      return new Check(type, subject, expected);
    }
  }

  /** How the method was to work; {@code bootLimitMs} in milliseconds. */
  public record RunOptions(
      String seed, int sample, List<String> paths, @Nullable String engine, long bootLimitMs) {
    static RunOptions of(DrillOptions options) {
      return new RunOptions(
          options.seed(),
          options.sample(),
          options.paths(),
          options.engine(),
          options.bootLimit().toMillis());
    }
  }

  /** A run with the names that go with its keys. */
  public static RunView of(Run run, Estate estate) {
    return new RunParts(run, estate).view();
  }

  public String resource() {
    return of.resource();
  }

  public String resourceName() {
    return of.resourceName();
  }

  public String workload() {
    return of.workload();
  }

  public @Nullable String workloadName() {
    return of.workloadName();
  }

  public String point() {
    return from.point();
  }

  public @Nullable Instant pointDataTime() {
    return from.pointDataTime();
  }

  public String store() {
    return from.store();
  }

  public String storeName() {
    return from.storeName();
  }

  public @Nullable String programme() {
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

  public @Nullable Instant startedAt() {
    return times.startedAt();
  }

  public @Nullable Instant workedUntil() {
    return times.workedUntil();
  }

  public @Nullable Instant endedAt() {
    return times.endedAt();
  }

  public @Nullable String awaits() {
    return waiting.awaits();
  }

  public @Nullable Instant awaitUntil() {
    return waiting.awaitUntil();
  }

  public @Nullable Instant holdUntil() {
    return waiting.holdUntil();
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

  public int reaches() {
    return result.reaches();
  }

  public boolean passed() {
    return result.passed();
  }

  public boolean ended() {
    return result.ended();
  }

  public String sentence() {
    return result.sentence();
  }

  public long bytes() {
    return read.bytes();
  }

  public @Nullable Long bytesPerSecond() {
    return read.bytesPerSecond();
  }

  public @Nullable Instant newestData() {
    return read.newestData();
  }

  public List<CheckView> checksAsked() {
    return asked.checksAsked();
  }

  public RunOptions options() {
    return asked.options();
  }
}
