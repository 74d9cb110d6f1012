package hardproof.server.drills;

import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.points.RecoveryPoint;
import hardproof.server.runs.Run;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Puts a run and what the facts say of it together for whoever looks at it. */
final class RunParts {
  private final Run run;
  private final Estate estate;

  RunParts(Run run, Estate estate) {
    this.run = run;
    this.estate = estate;
  }

  RunView view() {
    return new RunView(
        run.id(),
        of(),
        point(),
        run.method(),
        new RunView.Order(
            run.programme(), run.requestedBy(), run.reason(), run.order().rehearsal()),
        new RunView.Times(run.queuedAt(), run.startedAt(), run.workedUntil(), run.endedAt()),
        waiting(),
        new RunView.Answers(run.restore(), run.checks(), run.cleanup()),
        result(),
        new RunView.Reading(run.bytes(), rate(), run.newestData()),
        asked(),
        run.steps().stream().map(RunParts::step).toList());
  }

  private RunView.Of of() {
    Resource resource = estate.resource(run.resource());
    Workload workload = resource == null ? null : estate.workload(resource.workload());
    return new RunView.Of(
        run.resource(),
        resource == null ? run.resource() : resource.name(),
        workload == null ? "resource:" + run.resource() : workload.key(),
        workload == null ? null : workload.name());
  }

  private RunView.Point point() {
    RecoveryPoint point = estate.point(run.resource(), run.point());
    return new RunView.Point(
        run.point(),
        point == null ? null : point.dataTime(),
        run.store(),
        estate.storeName(run.store()));
  }

  private RunView.Waiting waiting() {
    return new RunView.Waiting(
        run.awaiting() ? run.awaits().name().toLowerCase(Locale.ROOT) : null,
        run.awaitUntil(),
        run.holdUntil());
  }

  private RunView.Result result() {
    return new RunView.Result(
        run.reaches().number(), run.ended() && run.fact().passed(), run.ended(), run.sentence());
  }

  private RunView.Asked asked() {
    return new RunView.Asked(
        run.checksAsked().stream().map(RunView.CheckView::of).toList(),
        RunView.RunOptions.of(run.options()));
  }

  private @Nullable Long rate() {
    return run.reading() == null || run.reading().isZero() || run.bytes() == 0
        ? null
        : (Long) (run.bytes() * 1000 / run.reading().toMillis());
  }

  private static RunView.RunStep step(Run.Step s) {
    return new RunView.RunStep(
        s.number(),
        s.name(),
        s.state(),
        s.startedAt(),
        s.endedAt(),
        s.doneBytes(),
        s.totalBytes(),
        s.message());
  }
}
