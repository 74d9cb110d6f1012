package hardproof.server.drills;

import hardproof.core.drills.CleanupState;
import hardproof.core.facts.Estate;
import hardproof.core.wording.WrongValue;
import hardproof.proving.checks.Answer;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.drills.DrillRunner;
import hardproof.server.activity.Activity;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.runs.CheckJson;
import hardproof.server.runs.CheckStore;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.security.Principal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The checks of a resource: what kinds there are, keeping them, trying them out. */
@RestController
@RequestMapping("/api")
class CheckController {
  private static final int MOST_CHECKS = 50;
  private static final int RUNS_LOOKED_AT = 20;

  private final CheckStore checks;
  private final RunStore runs;
  private final DrillOrders orders;
  private final DrillRunner runner;
  private final Supplier<Estate> estate;
  private final OutsideHosts outside;
  private final Activity activity;

  CheckController(
      CheckStore checks,
      RunStore runs,
      DrillOrders orders,
      DrillRunner runner,
      Supplier<Estate> estate,
      OutsideHosts outside,
      Activity activity) {
    this.checks = checks;
    this.runs = runs;
    this.orders = orders;
    this.runner = runner;
    this.estate = estate;
    this.outside = outside;
    this.activity = activity;
  }

  /** A kind of check; {@code expected} is what its second field holds. */
  record CheckKind(
      CheckType type,
      String words,
      String subject,
      @Nullable String expected,
      List<String> aspects) {}

  @Operation(summary = "Types of checks and what they need")
  @GetMapping("/check-types")
  List<CheckKind> types() {
    return Arrays.stream(CheckType.values())
        .map(t -> new CheckKind(
            t,
            t.words(),
            t.subject(),
            t.expected(),
            t.aspects().stream().map(Aspect::code).toList()))
        .toList();
  }

  /**
   * The checks of a resource.
   *
   * @param triedOn the run whose restored data is still held, so that checks can be tried on it
   */
  record KeptChecks(
      List<RunView.CheckView> checks,
      @Nullable String triedOn,
      @Nullable Instant triedOnPointTime) {}

  @Operation(summary = "Checks that are kept for a resource")
  @GetMapping("/resources/{resource}/checks")
  KeptChecks of(@PathVariable String resource) {
    known(resource);
    Run held = runs.endedOf(resource, RUNS_LOOKED_AT).stream()
        .filter(r -> r.cleanup() == CleanupState.HOLDING)
        .findFirst()
        .orElse(null);
    var point = held == null ? null : estate.get().point(resource, held.point());
    return new KeptChecks(
        checks.of(resource).stream().map(RunView.CheckView::of).toList(),
        held == null ? null : held.id(),
        point == null ? null : point.dataTime());
  }

  private void known(String resource) {
    if (estate.get().resource(resource) == null) {
      throw new NotFound("No resource '" + resource + "' is known.");
    }
  }

  /** Checks in the place of those that a resource had. */
  record WantedChecks(@NotNull List<RunView.CheckView> checks) {}

  @Operation(summary = "Keep checks for a resource")
  @PutMapping("/resources/{resource}/checks")
  KeptChecks keep(
      @PathVariable String resource, @Valid @RequestBody WantedChecks wanted, Principal person) {
    known(resource);
    List<Check> after = read(wanted.checks());
    outside.refuse(after);
    String before = CheckJson.write(checks.of(resource));
    checks.keep(resource, after);
    activity.record(
        person.getName(), "checks changed", resource, before + " to " + CheckJson.write(after));
    return of(resource);
  }

  private static List<Check> read(List<RunView.CheckView> views) {
    if (views.size() > MOST_CHECKS) {
      throw new WrongValue("a resource has at most " + MOST_CHECKS + " checks");
    }
    List<Check> read = new ArrayList<>();
    for (int i = 0; i < views.size(); i++) {
      try {
        read.add(views.get(i).check());
      } catch (WrongValue e) {
        throw new WrongValue("check " + (i + 1) + ": " + e.getMessage(), e);
      }
    }
    return read;
  }

  /** Checks to be tried on what a run restored. */
  record CheckTrial(@NotBlank String run, @NotNull List<RunView.CheckView> checks) {}

  /** What came of trying a check; nothing is recorded. */
  record TrialAnswer(boolean passed, boolean judged, String sentence) {}

  @Operation(summary = "Try checks on what a run restored")
  @PostMapping("/check-trials")
  List<TrialAnswer> tryOut(@Valid @RequestBody CheckTrial trial, Principal person) {
    List<Check> asked = read(trial.checks());
    Run run = runs.find(trial.run())
        .orElseThrow(() -> new NotFound("No drill run " + trial.run() + " is known."));
    // What is asked of restored data may bring out any of it, so who asked is written down first.
    activity.record(person.getName(), "checks tried", run.id(), CheckJson.write(asked));
    RunOrder order = RunOrder.asking(run, List.of(), "trial");
    try {
      return answers(asked, run, order);
    } catch (IOException e) {
      throw new Refused(e.getMessage());
    }
  }

  private List<TrialAnswer> answers(List<Check> asked, Run run, RunOrder order) throws IOException {
    List<Answer> answers = runner.tryOut(orders.request(estate.get(), run.id(), order), asked);
    return answers.stream()
        .map(a -> new TrialAnswer(a.passed(), a.judged(), a.sentence()))
        .toList();
  }
}
