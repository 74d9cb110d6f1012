package hardproof.server.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.wording.WrongValue;
import hardproof.proving.checks.Check;
import hardproof.proving.drills.DrillOptions;
import hardproof.proving.drills.DrillPlan;
import hardproof.proving.drills.DrillRunner;
import hardproof.server.runs.CheckStore;
import hardproof.server.runs.RunNeeds;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import java.security.Principal;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Drill runs: what can be drilled, what it would take, starting, watching, cancelling. */
@RestController
@RequestMapping("/api")
class DrillController {
  private static final int ENDED_SHOWN = 2000;
  static final Duration HOLD_MOST = Duration.ofDays(7);

  private final RunStore runs;
  private final CheckStore checks;
  private final DrillOrders orders;
  private final DrillRunner runner;
  private final RunQueue queue;
  private final Supplier<Estate> estate;
  private final Clock clock;

  DrillController(
      RunStore runs,
      CheckStore checks,
      DrillOrders orders,
      DrillRunner runner,
      RunQueue queue,
      Supplier<Estate> estate,
      Clock clock) {
    this.runs = runs;
    this.checks = checks;
    this.orders = orders;
    this.runner = runner;
    this.queue = queue;
    this.estate = estate;
    this.clock = clock;
  }

  /** The runs that wait or run, and those that have ended, newest first. */
  record DrillRuns(List<RunView> underWay, List<RunView> done, List<WaitingRun> waiting) {}

  /** Why a run that waits does not begin now. */
  record WaitingRun(String run, String why) {}

  /** What is wanted; empty fields are filled in sensibly. {@code holdMinutes} 0 removes at once. */
  record DrillOrder(
      @NotBlank String resource,
      @Nullable String point,
      @Nullable String store,
      @Nullable Method method,
      @Nullable String reason,
      @Nullable List<RunView.CheckView> checks,
      @Nullable Boolean keepChecks,
      @Nullable Integer holdMinutes,
      @Nullable WantedOptions options) {}

  /** How a method is to work; what is left out is as usual. */
  record WantedOptions(
      @Nullable String seed,
      @Nullable Integer sample,
      @Nullable List<String> paths,
      @Nullable String engine,
      @Nullable Integer bootSeconds) {
    DrillOptions options() {
      return new DrillOptions(
          seed,
          sample == null ? DrillOptions.SAMPLE_USUAL : sample,
          paths,
          engine == null || engine.isBlank() ? null : engine,
          bootSeconds == null ? null : Duration.ofSeconds(bootSeconds));
    }
  }

  @Operation(summary = "Runs, newest first")
  @GetMapping("/drill-runs")
  DrillRuns all() {
    Estate facts = estate.get();
    return new DrillRuns(
        runs.underWay().stream().map(r -> RunView.of(r, facts)).toList(),
        runs.ended(ENDED_SHOWN).stream().map(r -> RunView.of(r, facts)).toList(),
        queue.held().entrySet().stream()
            .map(h -> new WaitingRun(h.getKey(), h.getValue().words()))
            .toList());
  }

  @Operation(summary = "One run with its steps")
  @GetMapping("/drill-runs/{id}")
  RunView one(@PathVariable String id) {
    return RunView.of(
        runs.find(id).orElseThrow(() -> new NotFound("No drill run " + id + " is known.")),
        estate.get());
  }

  @Operation(summary = "What a resource can be drilled by")
  @GetMapping("/drill-choices")
  DrillChoices choices(@RequestParam String resource) {
    Estate facts = estate.get();
    Resource found = facts.resource(resource);
    if (found == null) {
      throw new NotFound("No resource '" + resource + "' is known.");
    }
    return DrillChoices.of(
        facts,
        found,
        runner,
        checks.of(resource).stream().map(RunView.CheckView::of).toList());
  }

  /** What it would do and take. Starts nothing, although it is a POST. */
  @Operation(summary = "What a drill would do and take; starts nothing")
  @PostMapping("/drill-plans")
  PlannedDrill plan(@Valid @RequestBody DrillOrder order) {
    Estate facts = estate.get();
    RunOrder complete = orders.complete(facts, runOrder(order, "plan"));
    try {
      return PlannedDrill.of(facts, complete, orders.plan(facts, complete));
    } catch (DrillOrders.OrderRefused e) {
      return PlannedDrill.of(facts, complete, refused(complete, e));
    }
  }

  private DrillPlan refused(RunOrder complete, DrillOrders.OrderRefused e) {
    return new DrillPlan(
        complete.method().rung(), List.of(), 0, 0, 0, runner.limits(), List.of(), e.getMessage());
  }

  @Operation(summary = "Start a drill")
  @PostMapping("/drill-runs")
  @ResponseStatus(HttpStatus.CREATED)
  RunView start(@Valid @RequestBody DrillOrder order, Principal person) {
    if (order.reason() == null || order.reason().isBlank()) {
      throw new Refused("Say why it is drilled: the reason stands in the evidence.");
    }
    String id = queue(order, person);
    queue.wake();
    return one(id);
  }

  private String queue(DrillOrder order, Principal person) {
    Estate facts = estate.get();
    RunOrder complete = orders.complete(facts, runOrder(order, order.reason().strip()));
    DrillPlan plan = orders.plan(facts, complete);
    if (plan.refusal() != null) {
      throw new Refused(plan.refusal());
    }
    if (Boolean.TRUE.equals(order.keepChecks()) && order.checks() != null) {
      checks.keep(complete.resource(), checks(order.checks()));
    }
    return runs.queue(
        complete,
        plan.reaches(),
        RunNeeds.of(plan.readBytes(), plan.spaceBytes()),
        null,
        person.getName(),
        clock.instant());
  }

  private static RunOrder runOrder(DrillOrder order, String reason) {
    Duration hold = Duration.ofMinutes(order.holdMinutes() == null ? 0 : order.holdMinutes());
    if (hold.isNegative() || hold.compareTo(HOLD_MOST) > 0) {
      throw new WrongValue("restored data can be held for at most 7 days");
    }
    return new RunOrder(
        order.resource(),
        blankToNull(order.point()),
        blankToNull(order.store()),
        order.method(),
        order.checks() == null ? null : checks(order.checks()),
        reason,
        hold,
        order.options() == null ? null : order.options().options());
  }

  private static String blankToNull(String text) {
    return text == null || text.isBlank() ? null : text;
  }

  private static List<Check> checks(List<RunView.CheckView> views) {
    return views.stream().map(RunView.CheckView::check).toList();
  }

  /** Asks a run to end; what it restored is removed. */
  @Operation(summary = "Cancel a run; what it restored is removed")
  @DeleteMapping("/drill-runs/{id}")
  @ResponseStatus(HttpStatus.ACCEPTED)
  void cancel(@PathVariable String id) {
    if (!runs.askToCancel(id)) {
      throw new Refused("This run has ended already; there is nothing to cancel.");
    }
    if (!queue.answer(id, ChecksState.NOT_ASKED, "cancelled while an answer was waited for")) {
      queue.wake();
    }
  }
}
