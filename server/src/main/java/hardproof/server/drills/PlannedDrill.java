package hardproof.server.drills;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.drills.Method;
import hardproof.core.facts.Estate;
import hardproof.proving.drills.DrillPlan;
import hardproof.server.runs.RunOrder;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What an order would do and take; {@code refusal} absent when it can be started. */
record PlannedDrill(
    @JsonUnwrapped PlannedOf of,
    Method method,
    int reaches,
    List<String> steps,
    @JsonUnwrapped PlannedSpace space,
    @JsonUnwrapped PlannedLimits limits,
    List<RunView.CheckView> checks,
    List<String> notes,
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
        plan.refusal());
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
