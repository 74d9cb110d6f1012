package hardproof.server.programmes;

import hardproof.core.facts.Estate;
import hardproof.core.programmes.Members;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.wording.WrongValue;
import hardproof.server.activity.Activity;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.Conflict;
import hardproof.server.web.IfMatch;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import java.security.Principal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
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
  private final Outlook outlook;
  private final Evaluations evaluations;
  private final Activity activity;
  private final Clock clock;

  ProgrammeController(
      ProgrammeStore store,
      Outlook outlook,
      Evaluations evaluations,
      Activity activity,
      Clock clock) {
    this.store = store;
    this.outlook = outlook;
    this.evaluations = evaluations;
    this.activity = activity;
    this.clock = clock;
  }

  /** Everything about what starts by itself. */
  record Calendar(List<ProgrammeView> programmes, List<DueAhead> ahead, List<StartTaken> starts) {}

  /**
   * A programme.
   *
   * @param says as it is written
   * @param words the same in words
   * @param resources the names of what it drills
   * @param recordedAt since when it says so; to be sent back with a change
   */
  record ProgrammeView(
      String key,
      ProgrammeDraft says,
      ProgrammeWords words,
      List<String> resources,
      long recordedAt,
      String changedBy) {}

  /** What a programme says, in words. */
  record ProgrammeWords(String scope, String showing, String point, String copy) {}

  record DueAhead(String programme, String name, Instant due, int resources) {}

  /**
   * What became of a due start.
   *
   * @param drawn whether its points were drawn at random
   */
  record StartTaken(
      String programme, Instant due, boolean started, int runs, String reason, boolean drawn) {}

  @Operation(summary = "Programmes and their next starts")
  @GetMapping
  Calendar calendar(@ParameterObject AsAt when) {
    Evaluated facts = evaluations.at(when);
    // What has just started is told at once, also where the newest evaluation is some seconds
    // older.
    Instant at = when.asAt() == null ? now() : facts.estate().asAt();
    List<Programme> all = when.asAt() == null ? store.all() : store.at(at);
    return new Calendar(
        all.stream().map(p -> view(facts, p)).toList(),
        outlook.ahead(all, at, at.plus(LOOK_AHEAD), AHEAD_EACH).stream()
            .map(a -> ahead(facts, a))
            .toList(),
        store.starts(at, STARTS_SHOWN).stream()
            .map(s -> new StartTaken(
                s.programme(), s.due(), s.started(), s.runs(), s.reason(), s.drawn()))
            .toList());
  }

  private static ProgrammeView view(Evaluated facts, Programme p) {
    Estate estate = facts.estate();
    ProgrammeTerms terms = p.terms();
    String store = p.how().copy().store();
    return new ProgrammeView(
        p.key(),
        ProgrammeDraft.of(p),
        new ProgrammeWords(
            p.scope().words(),
            p.how().showing().words(),
            p.how().point().words(),
            p.how().copy().words(store == null ? null : estate.storeName(store))),
        Members.of(terms, estate, facts.evaluation()).stream()
            .map(r -> r.name())
            .toList(),
        p.version().recordedAt().toEpochMilli(),
        p.version().changedBy());
  }

  private static DueAhead ahead(Evaluated facts, Outlook.Ahead a) {
    return new DueAhead(
        a.programme().key(),
        a.programme().name(),
        a.due(),
        Members.of(a.programme().terms(), facts.estate(), facts.evaluation()).size());
  }

  @Operation(summary = "Add a programme")
  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  void add(@Valid @RequestBody ProgrammeDraft draft, Principal person) {
    Instant now = now();
    String key = draft.name().strip().toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}\\p{N}]+", "-");
    Programme programme =
        draft.programme(key, begins(now), new Programme.Version(now, person.getName(), now));
    store.add(known(programme));
    activity.record(person.getName(), "programme added", key, ProgrammeJson.write(programme));
  }

  /** Another state of a programme. Its rule counts from where it began. */
  @Operation(summary = "Change a programme; If-Match names the version it was read in")
  @PutMapping("/{key}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void change(
      @PathVariable String key,
      @RequestHeader("If-Match") String seen,
      @Valid @RequestBody ProgrammeDraft draft,
      Principal person) {
    Instant now = now();
    Programme before = store.find(key).orElseThrow(() -> unknown(key));
    Programme programme = draft.programme(
        key,
        before.when(),
        new Programme.Version(now, person.getName(), before.version().handledUntil()));
    if (!store.change(known(programme), IfMatch.seen(seen), now)) {
      throw new Conflict("Somebody else has changed " + before.name()
          + " since you read it. Nothing was changed; read it again and make your change anew.");
    }
    activity.record(person.getName(), "programme changed", key, ProgrammeJson.write(programme));
  }

  static Programme.When begins(Instant now) {
    return new Programme.When(null, "UTC", now, Duration.ZERO, null);
  }

  private Programme known(Programme programme) {
    String key = programme.how().copy().store();
    if (key != null && evaluations.now().estate().store(key) == null) {
      throw new WrongValue("there is no store '" + key + "'");
    }
    return programme;
  }

  private Instant now() {
    return clock.instant().truncatedTo(ChronoUnit.MILLIS);
  }

  @Operation(summary = "End a programme")
  @DeleteMapping("/{key}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable String key, Principal person) {
    if (!store.remove(key, now())) {
      throw unknown(key);
    }
    activity.record(person.getName(), "programme removed", key, "");
  }

  private static NotFound unknown(String key) {
    return new NotFound("No programme '" + key + "' is known.");
  }
}
