package hardproof.server.programmes;

import hardproof.core.drills.Method;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.Values;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.Draw;
import hardproof.core.programmes.PointChoice;
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
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
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

  private static final int RANKS_SHOWN = 200;

  private final ProgrammeStore store;
  private final DrawStore draws;
  private final Programmes programmes;
  private final Supplier<Estate> estate;
  private final Activity activity;
  private final Clock clock;

  ProgrammeController(
      ProgrammeStore store,
      DrawStore draws,
      Programmes programmes,
      Supplier<Estate> estate,
      Activity activity,
      Clock clock) {
    this.store = store;
    this.draws = draws;
    this.programmes = programmes;
    this.estate = estate;
    this.activity = activity;
    this.clock = clock;
  }

  /** Everything about what starts by itself. */
  record Calendar(List<ProgrammeView> programmes, List<DueAhead> ahead, List<StartTaken> starts) {}

  /**
   * A programme; {@code scope}, {@code point} and {@code copy} in words, {@code startWindowMs} in milliseconds.
   */
  record ProgrammeView(
      String key,
      String name,
      String scope,
      String rule,
      String zone,
      long startWindowMs,
      @Nullable Method method,
      String point,
      String copy,
      List<String> resources) {}

  record DueAhead(String programme, String name, Instant due, int resources) {}

  /**
   * What became of a due start.
   *
   * @param drawn whether its points were drawn at random
   */
  record StartTaken(
      String programme, Instant due, boolean started, int runs, String reason, boolean drawn) {}

  /**
   * What was drawn at a start.
   *
   * @param known the digest of what was known before
   * @param repeats whether drawing it again comes to the same; where not, somebody changed what was kept
   * @param ranks the lowest, in their order
   */
  record DrawView(
      String seed,
      String digest,
      String known,
      int candidates,
      boolean repeats,
      List<RankView> ranks) {}

  /** A candidate with its rank; {@code drawn} where it is the one of its resource. */
  record RankView(String rank, String resource, String point, boolean drawn) {}

  /**
   * A new programme.
   *
   * @param scope a selector as JSON; empty for every resource
   * @param startWindow a duration such as 4h
   * @param method empty for the one that shows the most of each kind
   * @param point empty for the newest
   * @param within a duration such as 30d: how old what is drawn at random may be; empty for any age
   * @param copy empty for not the one drilled last
   * @param store whose copy it is, where one store is asked for
   */
  record NewProgramme(
      @NotBlank String name,
      @Nullable String scope,
      @NotBlank String rule,
      @NotBlank String zone,
      @NotBlank String startWindow,
      @Nullable Method method,
      PointChoice.@Nullable Way point,
      @Nullable String within,
      CopyChoice.@Nullable Way copy,
      @Nullable String store) {
    PointChoice pointChoice() {
      boolean aged = within != null && !within.isBlank();
      return new PointChoice(
          point == null ? PointChoice.Way.NEWEST : point,
          aged ? duration("the age of the points", within) : null);
    }

    CopyChoice copyChoice() {
      return new CopyChoice(
          copy == null ? CopyChoice.Way.NOT_LAST : copy,
          store == null || store.isBlank() ? null : store);
    }
  }

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
        p.point().words(),
        p.copy()
            .words(p.copy().store() == null ? null : facts.storeName(p.copy().store())),
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
        .map(s ->
            new StartTaken(s.programme(), s.due(), s.started(), s.runs(), s.reason(), s.drawn()))
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
        duration("the start window", p.startWindow()),
        p.method(),
        p.pointChoice(),
        known(p.copyChoice()),
        now));
  }

  private static Duration duration(String what, String text) {
    try {
      return Values.duration(text);
    } catch (WrongValue e) {
      throw new WrongValue(what + " " + e.getMessage(), e);
    }
  }

  private CopyChoice known(CopyChoice copy) {
    if (copy.store() != null && estate.get().store(copy.store()) == null) {
      throw new WrongValue("there is no store '" + copy.store() + "'");
    }
    return copy;
  }

  @Operation(summary = "What was drawn at random at a start of a programme")
  @GetMapping("/{key}/starts/{due}/draw")
  DrawView draw(@PathVariable String key, @PathVariable Instant due) {
    DrawStore.Kept kept = kept(key, due);
    Draw again = kept.again();
    Set<String> resources = new HashSet<>();
    return new DrawView(
        kept.seed(),
        kept.digest(),
        kept.known(),
        again.ranked().size(),
        kept.repeats(),
        again.ranked().stream()
            .limit(RANKS_SHOWN)
            .map(c ->
                new RankView(again.rank(c), c.resource(), c.point(), resources.add(c.resource())))
            .toList());
  }

  @Operation(summary = "The candidates of a draw, a line each")
  @GetMapping(
      value = "/{key}/starts/{due}/candidates",
      produces = MediaType.TEXT_PLAIN_VALUE + ";charset=UTF-8")
  String candidates(@PathVariable String key, @PathVariable Instant due) {
    return kept(key, due).list();
  }

  private DrawStore.Kept kept(String key, Instant due) {
    // What lies beyond what milliseconds can count was no start either.
    boolean was = !due.isBefore(Instant.EPOCH) && !due.isAfter(clock.instant());
    return (was ? draws.of(key, due) : Optional.<DrawStore.Kept>empty())
        .orElseThrow(() -> new NotFound(
            "Nothing was drawn at random at the start of '" + key + "' at " + due + "."));
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
