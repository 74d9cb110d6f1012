package hardproof.server.drills;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.recovery.TimeEstimate;
import hardproof.core.recovery.TimeEstimates;
import hardproof.proving.drills.DrillPlan;
import hardproof.server.runs.RunOrder;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What an order would do and take, {@code takes} how long by what was measured; {@code refusal} absent when it can be started. */
record PlannedDrill(
    @JsonUnwrapped PlannedOf of,
    Method method,
    int reaches,
    List<String> steps,
    @JsonUnwrapped PlannedSpace space,
    @JsonUnwrapped PlannedLimits limits,
    List<RunView.CheckView> checks,
    List<String> notes,
    @Nullable String takes,
    @Nullable String refusal) {
  /** What is to be drilled, and from where. */
  record PlannedOf(
      String resource, String point, Instant pointDataTime, String store, String storeName) {}

  /** Bytes that it reads, needs in its sandbox, and may have there. */
  record PlannedSpace(long readBytes, long spaceBytes, long freeBytes) {}

  /** Where it is stopped. */
  record PlannedLimits(long limitFiles, long limitMs, int limitSandboxes) {}

  static PlannedDrill of(Estate facts, RunOrder order, DrillPlan plan) {
    return new PlannedDrill(
        of(facts, order),
        order.method(),
        plan.reaches().number(),
        plan.steps(),
        new PlannedSpace(plan.readBytes(), plan.spaceBytes(), plan.freeBytes()),
        new PlannedLimits(
            plan.limits().files(),
            plan.limits().time().toMillis(),
            plan.limits().sandboxes()),
        order.checks().stream().map(RunView.CheckView::of).toList(),
        plan.notes(),
        takes(facts, order, plan),
        plan.refusal());
  }

  /** Null where nothing says. */
  private static @Nullable String takes(Estate facts, RunOrder order, DrillPlan plan) {
    Resource resource = facts.resource(order.resource());
    return resource == null
        ? null
        : new TimeEstimates(facts)
            .of(resource, order.store(), order.method(), plan.readBytes())
            .map(TimeEstimate::words)
            .orElse(null);
  }

  private static PlannedDrill.PlannedOf of(Estate facts, RunOrder order) {
    return new PlannedOf(
        order.resource(),
        order.point(),
        facts.point(order.resource(), order.point()).dataTime(),
        order.store(),
        facts.storeName(order.store()));
  }
}
