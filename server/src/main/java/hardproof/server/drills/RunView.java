package hardproof.server.drills;

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
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A run as screens see it. Codes for states; durations in milliseconds.
 *
 * @param bytesPerSecond while reading; null when too little was read to say
 */
public record RunView(
    String id,
    String resource,
    String resourceName,
    String workload,
    @Nullable String workloadName,
    String point,
    @Nullable Instant pointDataTime,
    String store,
    String storeName,
    Method method,
    @Nullable String programme,
    String requestedBy,
    String reason,
    Instant queuedAt,
    @Nullable Instant startedAt,
    @Nullable Instant workedUntil,
    @Nullable Instant endedAt,
    @Nullable String awaits,
    @Nullable Instant awaitUntil,
    RestoreState restore,
    ChecksState checks,
    CleanupState cleanup,
    @Nullable Instant holdUntil,
    int reaches,
    boolean passed,
    boolean ended,
    long bytes,
    @Nullable Long bytesPerSecond,
    @Nullable Instant newestData,
    String sentence,
    List<CheckView> checksAsked,
    RunOptions options,
    List<RunStep> steps) {
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
    static CheckView of(Check check) {
      return new CheckView(check.type(), check.subject(), check.expected());
    }

    /**
     * @throws WrongValue saying what is wrong with it
     */
    Check check() {
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
    var resource = estate.resource(run.resource());
    var workload = resource == null ? null : estate.workload(resource.workload());
    var point = estate.point(run.resource(), run.point());
    return new RunView(
        run.id(),
        run.resource(),
        resource == null ? run.resource() : resource.name(),
        workload == null ? "resource:" + run.resource() : workload.key(),
        workload == null ? null : workload.name(),
        run.point(),
        point == null ? null : point.dataTime(),
        run.store(),
        estate.storeName(run.store()),
        run.method(),
        run.programme(),
        run.requestedBy(),
        run.reason(),
        run.queuedAt(),
        run.startedAt(),
        run.workedUntil(),
        run.endedAt(),
        run.awaiting() ? run.awaits().name().toLowerCase(java.util.Locale.ROOT) : null,
        run.awaitUntil(),
        run.restore(),
        run.checks(),
        run.cleanup(),
        run.holdUntil(),
        run.reaches().number(),
        run.ended() && run.fact().passed(),
        run.ended(),
        run.bytes(),
        rate(run),
        run.newestData(),
        run.sentence(),
        run.checksAsked().stream().map(CheckView::of).toList(),
        RunOptions.of(run.options()),
        run.steps().stream()
            .map(s -> new RunStep(
                s.number(),
                s.name(),
                s.state(),
                s.startedAt(),
                s.endedAt(),
                s.doneBytes(),
                s.totalBytes(),
                s.message()))
            .toList());
  }

  private static Long rate(Run run) {
    return run.reading() == null || run.reading().isZero() || run.bytes() == 0
        ? null
        : run.bytes() * 1000 / run.reading().toMillis();
  }
}
