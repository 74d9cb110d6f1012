package hardproof.server.evidence;

import hardproof.core.wording.Wording;
import hardproof.server.drills.Run;
import java.time.Instant;
import java.util.Locale;

/** The log of one drill as plain text. */
final class DrillLog {
  private DrillLog() {}

  static String of(Run run) {
    StringBuilder log = new StringBuilder();
    line(log, "run", run.id());
    line(log, "resource", run.resource());
    line(log, "point", run.point());
    line(log, "read from", run.store());
    line(log, "method", run.method().words());
    line(log, "asked by", run.requestedBy());
    line(log, "reason", run.reason());
    line(log, "queued", run.queuedAt());
    line(log, "started", run.startedAt());
    line(log, "ended", run.endedAt());
    line(log, "restore", run.restore().code());
    line(log, "checks", run.checks().code());
    line(log, "clean-up", run.cleanup().code());
    line(log, "rung", run.reaches().code() + (run.fact().passed() ? ", reached" : ", not reached"));
    line(log, "read", Wording.bytes(run.bytes()));
    line(log, "newest", run.newestData());
    line(log, "result", run.sentence());
    run.checksAsked()
        .forEach(c ->
            line(log, "check", c.title() + (c.expected().isEmpty() ? "" : " = " + c.expected())));
    log.append('\n');
    for (Run.Step step : run.steps()) {
      log.append(String.format(
          Locale.ROOT,
          "%2d  %-8s %-24s %s\n",
          step.number() + 1,
          step.state().code(),
          time(step.startedAt()),
          step.name()));
      if (!step.message().isEmpty()) {
        log.append("    ").append(step.message()).append('\n');
      }
    }
    return log.toString();
  }

  private static String time(Instant instant) {
    return instant == null ? "-" : instant.toString();
  }

  private static void line(StringBuilder log, String name, Object value) {
    log.append(String.format(Locale.ROOT, "%-10s %s\n", name, value == null ? "-" : value));
  }
}
