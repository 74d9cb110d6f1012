package hardproof.server.engines;

import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.proving.drills.DrillRunner;
import hardproof.proving.drills.Engines;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.activity.Activity;
import hardproof.server.drills.RunQueue;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunStore;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What drills work with: the engines that are here, and the sandboxes that are in use. */
@RestController
@RequestMapping("/api")
class EngineController {
  private final Engines engines;
  private final Sandboxes sandboxes;
  private final DrillRunner runner;
  private final RunStore runs;
  private final RunQueue queue;
  private final Supplier<Estate> estate;
  private final OutsideHosts outside;
  private final Activity activity;
  private final Clock clock;

  EngineController(
      Engines engines,
      Sandboxes sandboxes,
      DrillRunner runner,
      RunStore runs,
      RunQueue queue,
      Supplier<Estate> estate,
      OutsideHosts outside,
      Activity activity,
      Clock clock) {
    this.engines = engines;
    this.sandboxes = sandboxes;
    this.runner = runner;
    this.runs = runs;
    this.queue = queue;
    this.estate = estate;
    this.outside = outside;
    this.activity = activity;
    this.clock = clock;
  }

  /** An engine; {@code sentence} is its version, or how to add it. */
  record EngineView(String code, String what, boolean present, String sentence) {}

  @Operation(summary = "Engines on this machine")
  @GetMapping("/engines")
  List<EngineView> engines() {
    return engines.all().stream()
        .map(e -> new EngineView(e.code(), e.what(), e.present(), e.sentence()))
        .toList();
  }

  /** Looks again, as after something was installed. */
  @Operation(summary = "Look for engines again")
  @PostMapping("/engines")
  List<EngineView> lookAgain(Principal person) {
    engines.lookAgain();
    activity.record(person.getName(), "engines looked for", "", "");
    return engines();
  }

  /** Hosts that outside checks may be sent to, each with a port where only that is allowed. */
  record AllowedHosts(@NotNull List<String> hosts) {}

  @Operation(summary = "Hosts that outside checks may be asked of")
  @GetMapping("/outside-hosts")
  AllowedHosts outsideHosts() {
    return new AllowedHosts(outside.allowed());
  }

  @Operation(summary = "Say which hosts outside checks may be asked of")
  @PutMapping("/outside-hosts")
  AllowedHosts allow(@Valid @RequestBody AllowedHosts wanted, Principal person) {
    String before = String.join(", ", outside.allowed());
    outside.allow(wanted.hosts(), person.getName(), clock.instant());
    AllowedHosts after = outsideHosts();
    activity.record(
        person.getName(),
        "outside hosts changed",
        "",
        before + " to " + String.join(", ", after.hosts()));
    return after;
  }

  /** Where drills restore to, and what is there now. */
  record SandboxSpace(
      String folder,
      long freeBytes,
      int most,
      long limitFiles,
      long limitMs,
      @Nullable String refusal,
      List<SandboxView> sandboxes) {}

  /** A sandbox; {@code holdUntil} is when it is removed by itself, {@code moved} why it can't be. */
  record SandboxView(
      String run,
      @Nullable String resource,
      @Nullable String resourceName,
      @Nullable String point,
      @Nullable Method method,
      @Nullable CleanupState cleanup,
      @Nullable Instant since,
      @Nullable Instant holdUntil,
      boolean inUse,
      long bytes,
      @Nullable String moved) {}

  @Operation(summary = "Sandboxes, and the space they take")
  @GetMapping("/sandboxes")
  SandboxSpace sandboxes() {
    try {
      Estate facts = estate.get();
      List<SandboxView> views = views(facts);
      return space(views);
    } catch (IOException e) {
      throw new Refused("The sandbox folder can't be read: " + e.getMessage() + ".");
    }
  }

  private List<SandboxView> views(Estate facts) throws IOException {
    List<SandboxView> views = new ArrayList<>();
    for (String name : sandboxes.present()) {
      views.add(view(name, facts));
    }
    views.sort(
        Comparator.comparing(SandboxView::since, Comparator.nullsFirst(Comparator.naturalOrder())));
    return views;
  }

  private SandboxSpace space(List<SandboxView> views) throws IOException {
    return new SandboxSpace(
        sandboxes.root().toString(),
        sandboxes.freeBytes(),
        runner.limits().sandboxes(),
        runner.limits().files(),
        runner.limits().time().toMillis(),
        sandboxes.refusal(),
        views);
  }

  private SandboxView view(String name, Estate facts) throws IOException {
    long bytes = sandboxes.sizeBytes(name);
    String moved = sandboxes.moved(name);
    return runs.find(name)
        .map(run -> {
          var resource = facts.resource(run.resource());
          return held(name, bytes, moved, resource, run);
        })
        .orElse(
            new SandboxView(name, null, null, null, null, null, null, null, false, bytes, moved));
  }

  private static EngineController.SandboxView held(
      String name, long bytes, String moved, Resource resource, Run run) {
    return new SandboxView(
        name,
        run.resource(),
        resource == null ? run.resource() : resource.name(),
        run.point(),
        run.method(),
        run.cleanup(),
        run.startedAt(),
        run.holdUntil(),
        !run.ended(),
        bytes,
        moved);
  }

  /** Removes what a run restored now. */
  @Operation(summary = "Remove what a run left in its sandbox")
  @DeleteMapping("/sandboxes/{run}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void cleanUp(@PathVariable String run) {
    try {
      if (runs.find(run).isEmpty() && sandboxes.exists(run)) {
        // Left by a run that is not recorded here, as after the data folder was put back.
        sandboxes.remove(run);
      } else if (!queue.cleanUpNow(run)) {
        throw new Refused(
            "This run holds no restored data, or still works with it. Cancel it first.");
      }
    } catch (IOException e) {
      throw new Refused("The sandbox can't be removed: " + e.getMessage() + ".");
    }
  }
}
