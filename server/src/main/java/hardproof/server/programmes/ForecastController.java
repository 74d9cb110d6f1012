package hardproof.server.programmes;

import hardproof.core.facts.Estate;
import hardproof.core.forecast.Cure;
import hardproof.core.forecast.Forecast;
import hardproof.core.forecast.Forecaster;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.wording.Wording;
import hardproof.server.activity.Activity;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.Conflict;
import hardproof.server.web.IfMatch;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The coming nights, what there is to drill with, and what another programme or more capacity would change. */
@RestController
@RequestMapping("/api")
class ForecastController {
  private static final int GAPS_SHOWN = 500;

  private final ProgrammeStore programmes;
  private final CapacityStore capacities;
  private final Outlook ahead;
  private final Foretelling foretelling;
  private final Evaluations evaluations;
  private final Activity activity;
  private final Clock clock;

  ForecastController(
      ProgrammeStore programmes,
      CapacityStore capacities,
      Outlook ahead,
      Foretelling foretelling,
      Evaluations evaluations,
      Activity activity,
      Clock clock) {
    this.programmes = programmes;
    this.capacities = capacities;
    this.ahead = ahead;
    this.foretelling = foretelling;
    this.evaluations = evaluations;
    this.activity = activity;
    this.clock = clock;
  }

  /**
   * The coming nights.
   *
   * @param sentence the whole of it, for people
   * @param gaps times without a proof that is demanded, soonest first, the first 500
   * @param past the last nights as they were foretold and as they were
   */
  record ForecastView(
      Instant from,
      Instant until,
      String sentence,
      List<NightView> nights,
      List<Forecast.Gap> gaps,
      int gapsInAll,
      List<PastNight> past) {}

  /**
   * A night, up to the opening of the next; times in milliseconds.
   *
   * @param busyMs time that drills take of it, added up
   * @param roomMs time that they could take
   */
  record NightView(
      Instant opens, Instant closes, int drills, long busyMs, long roomMs, long bytes) {}

  private static NightView night(Forecast.Night n) {
    return new NightView(
        n.opens(), n.closes(), n.drills(), n.busy().toMillis(), n.room().toMillis(), n.bytes());
  }

  /** A night that is over: names of resources, by what was foretold of their drills and what became of it. */
  record PastNight(
      Instant opens, List<String> begun, List<String> notBegun, List<String> unforeseen) {}

  @Operation(summary = "The coming 90 nights: load, lapses and why")
  @GetMapping("/forecast")
  ForecastView forecast(@ParameterObject AsAt when) {
    Evaluated facts = evaluations.at(when);
    Instant at = facts.estate().asAt();
    List<Programme> all = when.asAt() == null ? programmes.all() : programmes.at(at);
    return view(facts, all, capacities.at(at).capacity(), true);
  }

  private ForecastView view(
      Evaluated facts, List<Programme> all, Capacity capacity, boolean withPast) {
    Forecast forecast = ahead.forecaster(facts, all).forecast(capacity, Forecaster.AHEAD);
    List<PastNight> past = withPast
        ? foretelling.past(facts.estate().asAt()).stream()
            .map(p -> past(facts.estate(), p))
            .toList()
        : List.of();
    return new ForecastView(
        forecast.from(),
        forecast.until(),
        sentence(forecast),
        forecast.nights().stream().map(ForecastController::night).toList(),
        forecast.gaps().stream().limit(GAPS_SHOWN).toList(),
        forecast.gaps().size(),
        past);
  }

  private static PastNight past(Estate estate, Foretelling.Past p) {
    return new PastNight(
        p.opens(),
        names(estate, p.begun()),
        names(estate, p.notBegun()),
        names(estate, p.unforeseen()));
  }

  private static List<String> names(Estate estate, Collection<String> keys) {
    return keys.stream()
        .map(k -> estate.resource(k) == null ? k : estate.resource(k).name())
        .toList();
  }

  private static String sentence(Forecast f) {
    long lapsing = f.gaps().stream().filter(Forecast.Gap::lapsing).count();
    long missing = f.gaps().size() - lapsing;
    int never = f.neverRenewed().size();
    String lapses = lapsing == 0
        ? "No proof lapses in the coming 90 days"
        : "In the coming 90 days " + Wording.count(lapsing, "proof lapses", "proofs lapse");
    String gaps = missing > 0
        ? lapses + ", and " + missing + (missing == 1 ? " is" : " are") + " missing already"
        : lapses;
    return gaps + (never > 0 ? "; nothing will renew " + never + " of them" : "")
        + ". This holds if every drill passes and points go on being made as they are.";
  }

  /**
   * What came of trying something.
   *
   * @param what was tried; absent where there is nothing to try
   * @param helps whether it is worth doing
   * @param fewer times without a proof less than there are
   * @param missing how long proofs would be missing, in words
   */
  record CureView(@Nullable String what, boolean helps, int fewer, String missing) {}

  /** One at a time: each lets the nights pass again, and whoever waits sees how far it is. */
  @Operation(summary = "Whether something would prevent lapses, found by trying it")
  @GetMapping("/forecast/cures/{way}")
  CureView cure(@PathVariable Cure.Way way) {
    Evaluated facts = evaluations.now();
    List<ProgrammeTerms> terms = programmes.all().stream().map(Programme::terms).toList();
    return Cure.tried(
            way,
            ahead.forecasting(facts),
            terms,
            capacities.at(facts.estate().asAt()).capacity(),
            Forecaster.AHEAD)
        .map(c -> new CureView(c.what(), c.helps(), c.fewer(), Wording.duration(c.missing())))
        .orElse(new CureView(null, false, 0, ""));
  }

  /**
   * A programme to try.
   *
   * @param key of the one that it would stand in place of; empty for a new one
   */
  record ProgrammeTrial(
      @Nullable String key, @NotNull @Valid ProgrammeDraft programme) {}

  /** Changes nothing, although it is a POST. */
  @Operation(summary = "The coming 90 nights with a programme as it would be; changes nothing")
  @PostMapping("/programme-trials")
  ForecastView tryProgramme(@Valid @RequestBody ProgrammeTrial trial) {
    Evaluated facts = evaluations.now();
    Instant now = clock.instant();
    Optional<Programme> before =
        trial.key() == null ? Optional.empty() : programmes.find(trial.key());
    List<Programme> all = new ArrayList<>(programmes.all());
    all.removeIf(p -> before.isPresent() && p.key().equals(before.get().key()));
    all.add(trial
        .programme()
        .programme(
            before.map(Programme::key).orElse(" tried"),
            before.map(Programme::when).orElse(ProgrammeController.begins(now)),
            new Programme.Version(now, "", now)));
    return view(facts, all, capacities.at(facts.estate().asAt()).capacity(), false);
  }

  /** What there is to drill with, and since when it has been said; that is to be sent back with a change. */
  record CapacityView(CapacityDraft says, long recordedAt, String changedBy) {}

  @Operation(summary = "What there is to drill with")
  @GetMapping("/drill-capacity")
  CapacityView capacity() {
    CapacityStore.Said said = capacities.at(clock.instant());
    return new CapacityView(
        CapacityDraft.of(said.capacity()), said.since().toEpochMilli(), said.by());
  }

  @Operation(summary = "Say what there is to drill with; If-Match names the version it was read in")
  @PutMapping("/drill-capacity")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void say(
      @RequestHeader("If-Match") String seen,
      @Valid @RequestBody CapacityDraft draft,
      Principal person) {
    Instant now = clock.instant().truncatedTo(ChronoUnit.MILLIS);
    if (!capacities.say(draft.capacity(), IfMatch.seen(seen), person.getName(), now)) {
      throw new Conflict("Somebody else has changed what there is to drill with since you read it."
          + " Nothing was changed; read it again and make your change anew.");
    }
    activity.record(person.getName(), "drill capacity changed", "", draft.toString());
  }

  /** Changes nothing, although it is a POST. */
  @Operation(summary = "The coming 90 nights with another capacity; changes nothing")
  @PostMapping("/drill-capacity-trials")
  ForecastView tryCapacity(@Valid @RequestBody CapacityDraft draft) {
    return view(evaluations.now(), programmes.all(), draft.capacity(), false);
  }
}
