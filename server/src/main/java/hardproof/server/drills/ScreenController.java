package hardproof.server.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.facts.Estate;
import hardproof.proving.drills.DrillResult.Awaits;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunStore;
import hardproof.server.runs.ScreenStore;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.security.Principal;
import java.time.Clock;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.http.CacheControl;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What machines showed in drills, and what people say of a screen that is not known. */
@RestController
@RequestMapping("/api/drill-runs/{id}")
class ScreenController {
  private final RunStore runs;
  private final ScreenStore screens;
  private final RunQueue queue;
  private final Supplier<Estate> estate;
  private final Clock clock;

  ScreenController(
      RunStore runs, ScreenStore screens, RunQueue queue, Supplier<Estate> estate, Clock clock) {
    this.runs = runs;
    this.screens = screens;
    this.queue = queue;
    this.estate = estate;
    this.clock = clock;
  }

  /**
   * A screen; {@code atMs} in milliseconds of the machine's own time, {@code number} −1 for what it shows
   * now.
   */
  record ScreenView(
      int number,
      long atMs,
      @Nullable String screenClass,
      @Nullable String engine,
      @Nullable List<String> lines,
      boolean picture) {}

  @Operation(summary = "Screens that a machine showed")
  @GetMapping("/screens")
  List<ScreenView> screens(@PathVariable String id) {
    run(id);
    return screens.of(id).stream()
        .map(s -> new ScreenView(
            s.number(), s.atMs(), s.screenClass(), s.engine(), s.lines(), s.png() != null))
        .toList();
  }

  private Run run(String id) {
    return runs.find(id).orElseThrow(() -> new NotFound("No drill run " + id + " is known."));
  }

  @Operation(summary = "A screen as a picture")
  @GetMapping(path = "/screens/{number}.png", produces = MediaType.IMAGE_PNG_VALUE)
  ResponseEntity<byte[]> picture(@PathVariable String id, @PathVariable int number) {
    byte[] png = screens
        .picture(id, number)
        .orElseThrow(() -> new NotFound("This run has no such picture."));
    return ResponseEntity.ok()
        .cacheControl(
            number == ScreenStore.LIVE
                ? CacheControl.noStore()
                : CacheControl.maxAge(java.time.Duration.ofDays(30)).cachePrivate())
        .body(png);
  }

  /** What somebody says of a screen that is not known; {@code right} takes it for the machine's own. */
  record Word(@NotNull Boolean right, @Nullable String reason) {}

  @Operation(summary = "Say what is to be seen on a screen")
  @PostMapping("/screen-word")
  RunView say(@PathVariable String id, @Valid @RequestBody Word word, Principal person) {
    Run run = run(id);
    if (!run.awaiting() || run.awaits() != Awaits.PERSON) {
      throw new Refused("This run does not wait for anybody's word on its screen.");
    }
    if (word.reason() == null || word.reason().isBlank()) {
      throw new Refused("Say how you know: it stands in the evidence.");
    }
    String reason = word.reason().strip();
    ScreenStore.RunScreen screen = screens
        .concluded(id)
        .orElseThrow(() -> new Refused("This run kept no screen to say anything of."));
    String said = person.getName()
        + (word.right() ? " says that this screen is right: " : " says that this screen is wrong: ")
        + reason;
    if (!queue.answer(id, word.right() ? ChecksState.PASSED : ChecksState.FAILED, said)) {
      throw new Refused("Somebody else has said so already.");
    }
    if (word.right()) {
      screens.accept(run, screen, person.getName(), reason, clock.instant());
    }
    return RunView.of(run(id), estate.get());
  }
}
