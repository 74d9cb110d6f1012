package hardproof.server.programmes;

import hardproof.core.drills.Method;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.Values;
import hardproof.core.wording.WrongValue;
import hardproof.server.activity.Activity;
import hardproof.server.facts.SelectorJson;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import java.security.Principal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
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
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Drill programmes: what starts by itself, what is next, and what was missed. */
@RestController
@RequestMapping("/api/programmes")
class ProgrammeController {
  private static final Duration LOOK_AHEAD = Duration.ofDays(60);
  private static final int AHEAD_EACH = 10;
  private static final int STARTS_SHOWN = 100;

  private final ProgrammeStore store;
  private final Programmes programmes;
  private final Supplier<Estate> estate;
  private final Activity activity;
  private final Clock clock;

  ProgrammeController(
      ProgrammeStore store,
      Programmes programmes,
      Supplier<Estate> estate,
      Activity activity,
      Clock clock) {
    this.store = store;
    this.programmes = programmes;
    this.estate = estate;
    this.activity = activity;
    this.clock = clock;
  }

  /** Everything about what starts by itself. */
  record Calendar(List<ProgrammeView> programmes, List<DueAhead> ahead, List<StartTaken> starts) {}

  /** A programme; {@code scope} in words, {@code startWindowMs} in milliseconds. */
  record ProgrammeView(
      String key,
      String name,
      String scope,
      String rule,
      String zone,
      long startWindowMs,
      @Nullable Method method,
      List<String> resources) {}

  record DueAhead(String programme, String name, Instant due, int resources) {}

  record StartTaken(String programme, Instant due, boolean started, int runs, String reason) {}

  /**
   * A new programme.
   *
   * @param scope a selector as JSON; empty for every resource
   * @param startWindow a duration such as 4h
   * @param method empty for the one that shows the most of each kind
   */
  record NewProgramme(
      @NotBlank String name,
      @Nullable String scope,
      @NotBlank String rule,
      @NotBlank String zone,
      @NotBlank String startWindow,
      @Nullable Method method) {}

  @Operation(summary = "Programmes and their next starts")
  @GetMapping
  Calendar calendar() {
    Estate facts = estate.get();
    Instant now = clock.instant();
    return new Calendar(
        store.all().stream().map(p -> view(facts, p)).toList(),
        programmes.ahead(now, now.plus(LOOK_AHEAD), AHEAD_EACH).stream()
            .map(a -> ahead(facts, a))
            .toList(),
        starts());
  }

  private static ProgrammeController.ProgrammeView view(Estate facts, Programme p) {
    return new ProgrammeView(
        p.key(),
        p.name(),
        p.scope().words(),
        p.rule(),
        p.zone(),
        p.startWindow().toMillis(),
        p.method(),
        Programmes.members(p, facts).stream().map(r -> r.name()).toList());
  }

  private static ProgrammeController.DueAhead ahead(Estate facts, Programmes.Ahead a) {
    return new DueAhead(
        a.programme().key(),
        a.programme().name(),
        a.due(),
        Programmes.members(a.programme(), facts).size());
  }

  private List<ProgrammeController.StartTaken> starts() {
    return store.starts(STARTS_SHOWN).stream()
        .map(s -> new StartTaken(s.programme(), s.due(), s.started(), s.runs(), s.reason()))
        .toList();
  }

  @Operation(summary = "Add a programme")
  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  void add(@Valid @RequestBody NewProgramme p, Principal person) {
    Instant now = clock.instant();
    String key =
        p.name().strip().toLowerCase(java.util.Locale.ROOT).replaceAll("[^\\p{L}\\p{N}]+", "-");
    programme(p, now, key);
    activity.record(
        person.getName(),
        "programme added",
        key,
        p.rule().strip() + " in " + p.zone().strip() + ", start window " + p.startWindow()
            + ", for " + (p.scope() == null || p.scope().isBlank() ? "everything" : p.scope()));
  }

  private void programme(NewProgramme p, Instant now, String key) {
    store.add(new Programme(
        key,
        p.name().strip(),
        SelectorJson.read(p.scope() == null || p.scope().isBlank() ? "{}" : p.scope()),
        p.rule().strip(),
        p.zone().strip(),
        now,
        duration(p.startWindow()),
        p.method(),
        now));
  }

  private static Duration duration(String text) {
    try {
      return Values.duration(text);
    } catch (WrongValue e) {
      throw new WrongValue("the start window " + e.getMessage(), e);
    }
  }

  @Operation(summary = "Remove a programme")
  @DeleteMapping("/{key}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable String key, Principal person) {
    if (!store.remove(key)) {
      throw new NotFound("No programme '" + key + "' is known.");
    }
    activity.record(person.getName(), "programme removed", key, "");
  }
}
