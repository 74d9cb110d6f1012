package hardproof.server.evidence;

import hardproof.core.drills.DrillFact;
import hardproof.core.wording.Wording;
import java.time.Instant;
import java.util.Locale;

/** The log of one drill as plain text. */
final class DrillLog {
  private DrillLog() {}

  static String of(DrillFact fact, RunDetail detail) {
    StringBuilder log = new StringBuilder();
    asked(fact, detail, log);
    came(fact, detail, log);
    log.append('\n');
    steps(detail, log);
    return log.toString();
  }

  private static void asked(DrillFact fact, RunDetail detail, StringBuilder log) {
    line(log, "run", fact.run());
    line(log, "resource", fact.resource());
    line(log, "point", fact.point());
    line(log, "read from", fact.store());
    line(log, "method", fact.method().words());
    line(log, "asked by", detail.requestedBy());
    line(log, "reason", detail.reason());
    line(log, "queued", detail.queuedAt());
    line(log, "started", fact.started());
  }

  private static void came(DrillFact fact, RunDetail detail, StringBuilder log) {
    line(log, "ended", fact.ended());
    line(log, "restore", fact.restore().code());
    line(log, "checks", fact.checks().code());
    line(log, "clean-up", fact.cleanup().code());
    line(log, "rung", fact.reaches().code() + (fact.passed() ? ", reached" : ", not reached"));
    line(log, "read", Wording.bytes(fact.bytes()));
    line(log, "newest", detail.newestData());
    line(log, "result", fact.sentence());
    detail
        .screens()
        .forEach(s -> line(
            log,
            "screen",
            "screen-" + (s.number() + 1) + ".png at " + s.atMs() / 1000 + " s"
                + (s.concluded() == null ? "" : ": " + s.concluded()) + ", SHA-256 "
                + s.sha256()));
    detail.checks().forEach(c -> line(log, "check", c));
  }

  private static void steps(RunDetail detail, StringBuilder log) {
    int number = 0;
    for (RunDetail.Step step : detail.steps()) {
      log.append(String.format(
          Locale.ROOT,
          "%2d  %-8s %-24s %s\n",
          ++number,
          step.state().code(),
          time(step.startedAt()),
          oneLine(step.name())));
      if (!step.message().isEmpty()) {
        log.append("    ").append(oneLine(step.message())).append('\n');
      }
    }
  }

  /** What somebody typed must not look like a line of ours. */
  private static String oneLine(Object value) {
    return value == null ? "-" : value.toString().replaceAll("\\p{Cntrl}+", " ");
  }

  private static String time(Instant instant) {
    return instant == null ? "-" : instant.toString();
  }

  private static void line(StringBuilder log, String name, Object value) {
    log.append(String.format(Locale.ROOT, "%-10s %s\n", name, oneLine(value)));
  }
}
