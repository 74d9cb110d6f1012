package hardproof.server.rehearsals;

import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.losses.Loss;
import hardproof.core.wording.WrongValue;
import hardproof.server.programmes.CapacityStore;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.runs.RunStore;
import hardproof.server.survival.LossDraft;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import java.security.Principal;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
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

/** Rehearsals: what one would take, starting, watching, cancelling. */
@RestController
@RequestMapping("/api")
class RehearsalController {
  private static final int ENDED_SHOWN = 200;
  private static final int MOST_AT_ONCE = 16;
  private static final Duration STAY_MOST = Duration.ofHours(8);
  private static final Duration HOLD_MOST = Duration.ofDays(7);
  private static final Instant EARLIEST = Instant.EPOCH;

  private final Rehearsals rehearsals;
  private final RehearsalStore store;
  private final RunStore runs;
  private final Evaluations evaluations;
  private final CapacityStore capacities;
  private final Clock clock;

  RehearsalController(
      Rehearsals rehearsals,
      RehearsalStore store,
      RunStore runs,
      Evaluations evaluations,
      CapacityStore capacities,
      Clock clock) {
    this.rehearsals = rehearsals;
    this.store = store;
    this.runs = runs;
    this.evaluations = evaluations;
    this.capacities = capacities;
    this.clock = clock;
  }

  /**
   * What is wanted; empty fields are filled in sensibly.
   *
   * @param moment members come back from their newest points at or before it; the newest where it is left out
   * @param atOnce members that are brought back at once, 1 to 16; as many as drills may be where it is left out
   * @param loss what is left out as if it were lost
   * @param staySeconds how long all stay up together after the last check; a minute where it is left out
   * @param holdMinutes how long what was restored is kept after the end; 0 removes it at once
   */
  record RehearsalDraft(
      @NotBlank String workload,
      @Nullable String moment,
      @Nullable Integer atOnce,
      @Nullable LossDraft loss,
      @Nullable Integer staySeconds,
      @Nullable Integer holdMinutes,
      @Nullable String reason) {}

  private Workload workload(Estate estate, String key) {
    Workload workload = estate.workload(key);
    if (workload == null) {
      throw new NotFound("No workload '" + key + "' is known.");
    }
    return workload;
  }

  private RehearsalOrders.Wanted wanted(RehearsalDraft draft, Estate estate) {
    int usual = Math.min(
        MOST_AT_ONCE, Math.max(1, capacities.at(clock.instant()).capacity().atOnce()));
    int atOnce = draft.atOnce() == null ? usual : draft.atOnce();
    if (atOnce < 1 || atOnce > MOST_AT_ONCE) {
      throw new WrongValue("members at once are 1 to " + MOST_AT_ONCE + ", not " + atOnce);
    }
    Duration stay = Duration.ofSeconds(draft.staySeconds() == null ? 60 : draft.staySeconds());
    if (stay.isNegative() || stay.compareTo(STAY_MOST) > 0) {
      throw new WrongValue("members can stay up together for at most 8 hours after the last check");
    }
    Duration hold = Duration.ofMinutes(draft.holdMinutes() == null ? 0 : draft.holdMinutes());
    if (hold.isNegative() || hold.compareTo(HOLD_MOST) > 0) {
      throw new WrongValue("restored data can be held for at most 7 days");
    }
    return new RehearsalOrders.Wanted(
        moment(draft.moment(), estate),
        draft.loss() == null ? Loss.NONE : draft.loss().loss(estate),
        atOnce,
        stay,
        hold,
        draft.reason() == null ? "" : draft.reason().strip());
  }

  private static Instant moment(@Nullable String text, Estate estate) {
    if (text == null || text.isBlank()) {
      return estate.asAt();
    }
    Instant moment = null;
    try {
      moment = Instant.parse(text);
    } catch (DateTimeException e) {
      // Said below.
    }
    if (moment == null || moment.isBefore(EARLIEST) || moment.isAfter(estate.asAt())) {
      throw new WrongValue("'" + text
          + "' is no moment that has been: give one like 2026-11-26T16:07:00Z, not after now");
    }
    return moment;
  }

  @Operation(summary = "What a rehearsal would bring back and take; starts nothing")
  @PostMapping("/rehearsal-plans")
  PlannedRehearsal plan(@Valid @RequestBody RehearsalDraft draft) {
    Evaluated evaluated = evaluations.now();
    Estate estate = evaluated.estate();
    RehearsalOrders.Wanted wanted = wanted(draft, estate);
    return PlannedRehearsal.of(
        estate,
        rehearsals.plan(
            estate, evaluated.evaluation().standard(), workload(estate, draft.workload()), wanted),
        wanted);
  }

  @Operation(summary = "Start a rehearsal")
  @PostMapping("/rehearsals")
  @ResponseStatus(HttpStatus.CREATED)
  RehearsalView start(@Valid @RequestBody RehearsalDraft draft, Principal person) {
    if (draft.reason() == null || draft.reason().isBlank()) {
      throw new Refused("Say why it is rehearsed: the reason stands in the evidence.");
    }
    Evaluated evaluated = evaluations.now();
    Estate estate = evaluated.estate();
    RehearsalOrders.Wanted wanted = wanted(draft, estate);
    String words = wanted.loss().equals(Loss.NONE) ? null : wanted.loss().words(estate::storeName);
    RehearsalOrders.Ready ready = rehearsals.plan(
        estate, evaluated.evaluation().standard(), workload(estate, draft.workload()), wanted);
    return one(rehearsals.order(ready, wanted, words, person.getName(), null, null));
  }

  /** Those that wait or go on, and those that have ended, newest first. */
  record RehearsalList(List<RehearsalView> underWay, List<RehearsalView> done) {}

  @Operation(summary = "Rehearsals, newest first")
  @GetMapping("/rehearsals")
  RehearsalList all(@RequestParam(required = false) @Nullable String workload) {
    List<Rehearsal> all = workload == null
        ? store.ended(ENDED_SHOWN)
        : store.of(workload, ENDED_SHOWN).stream().filter(Rehearsal::ended).toList();
    return new RehearsalList(
        store.underWay().stream()
            .filter(r -> workload == null || r.order().workload().equals(workload))
            .map(this::view)
            .toList(),
        all.stream().map(this::view).toList());
  }

  @Operation(summary = "One rehearsal with its members")
  @GetMapping("/rehearsals/{id}")
  RehearsalView one(@PathVariable String id) {
    return view(
        store.find(id).orElseThrow(() -> new NotFound("No rehearsal " + id + " is known.")));
  }

  private RehearsalView view(Rehearsal rehearsal) {
    return RehearsalView.of(rehearsal, evaluations.now().estate(), runs, clock.instant());
  }

  /** Asks a rehearsal to end; what its members restored is removed. */
  @Operation(summary = "Cancel a rehearsal; what its members restored is removed")
  @DeleteMapping("/rehearsals/{id}")
  @ResponseStatus(HttpStatus.ACCEPTED)
  void cancel(@PathVariable String id) {
    if (!rehearsals.cancel(id)) {
      throw new Refused(
          "This rehearsal has ended already, or never was; there is nothing to cancel.");
    }
  }
}
