package hardproof.server.drills;

import hardproof.core.facts.Estate;
import hardproof.proving.drills.SqlCheck;
import hardproof.server.web.MayBeAbsent;
import java.time.Instant;
import java.util.List;

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
    @MayBeAbsent String workloadName,
    String point,
    @MayBeAbsent Instant pointDataTime,
    String store,
    String storeName,
    String method,
    @MayBeAbsent String programme,
    String requestedBy,
    String reason,
    Instant queuedAt,
    @MayBeAbsent Instant startedAt,
    @MayBeAbsent Instant endedAt,
    String restore,
    String checks,
    String cleanup,
    @MayBeAbsent Instant holdUntil,
    int reaches,
    boolean passed,
    boolean ended,
    long bytes,
    @MayBeAbsent Long bytesPerSecond,
    String sentence,
    List<Query> queries,
    List<RunStep> steps) {
  /** A step; {@code totalBytes} 0 when not known. */
  public record RunStep(
      int number,
      String name,
      String state,
      @MayBeAbsent Instant startedAt,
      @MayBeAbsent Instant endedAt,
      long doneBytes,
      long totalBytes,
      String message) {}

  /** A query that is asked of a restored database. */
  public record Query(String query, String operator, String expected) {
    static Query of(SqlCheck check) {
      return new Query(check.query(), check.operator().code(), check.expected());
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
        run.method().code(),
        run.programme(),
        run.requestedBy(),
        run.reason(),
        run.queuedAt(),
        run.startedAt(),
        run.endedAt(),
        run.restore().code(),
        run.checks().code(),
        run.cleanup().code(),
        run.holdUntil(),
        run.reaches().number(),
        run.ended() && run.fact().passed(),
        run.ended(),
        run.bytes(),
        rate(run),
        run.sentence(),
        run.checksAsked().stream().map(Query::of).toList(),
        run.steps().stream()
            .map(s -> new RunStep(
                s.number(),
                s.name(),
                s.state().code(),
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
