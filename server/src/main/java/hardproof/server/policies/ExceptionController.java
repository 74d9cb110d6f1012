package hardproof.server.policies;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OwnCriterion;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Selector;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.BundleFile;
import hardproof.core.wording.Coded;
import hardproof.server.estate.FactStore;
import hardproof.server.estate.OwnFacts;
import hardproof.server.estate.SelectorJson;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.MayBeAbsent;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/**
 * Accepted deviations: one person proposes, another decides. If-Match carries the state that the person
 * saw, so that nobody decides about something that has changed meanwhile.
 */
@RestController
@RequestMapping("/api/exceptions")
class ExceptionController {
  private final Evaluations evaluations;
  private final FactStore facts;
  private final OwnFacts own;
  private final Clock clock;

  ExceptionController(Evaluations evaluations, FactStore facts, OwnFacts own, Clock clock) {
    this.evaluations = evaluations;
    this.facts = facts;
    this.own = own;
    this.clock = clock;
  }

  /**
   * An exception.
   *
   * @param criterion absent when whole resources are left out
   * @param scope in words; {@code selector} as JSON
   * @param feed where it comes from; "written here" for those made on the screen
   * @param edited when this state was recorded; to be sent back as If-Match
   */
  record ExceptionView(
      String key,
      String state,
      String scope,
      String selector,
      @MayBeAbsent String criterion,
      @MayBeAbsent String title,
      String reason,
      @MayBeAbsent String proposedBy,
      @MayBeAbsent String approvedBy,
      @MayBeAbsent String refusedBy,
      @MayBeAbsent Instant from,
      @MayBeAbsent Instant until,
      int resources,
      String feed,
      Instant edited) {}

  @GetMapping
  List<ExceptionView> exceptions(@RequestParam(required = false) Instant asAt) {
    Estate estate = evaluations.at(asAt).estate();
    return estate.facts().exceptions().stream()
        .map(e -> view(e, estate))
        .sorted(Comparator.comparing((ExceptionView v) -> order(v.state()))
            .thenComparing(v -> v.until() == null ? Instant.MAX : v.until())
            .thenComparing(ExceptionView::key))
        .toList();
  }

  private static int order(String state) {
    return Coded.of(AcceptedException.State.class, state) == AcceptedException.State.REFUSED
        ? 9
        : Coded.of(AcceptedException.State.class, state).ordinal();
  }

  private ExceptionView view(AcceptedException e, Estate estate) {
    FactStore.FactState state =
        facts.fact(BundleFile.EXCEPTIONS, List.of(e.key())).orElse(null);
    return new ExceptionView(
        e.key(),
        e.stateAt(estate.asAt()).code(),
        e.scope().words(),
        SelectorJson.write(e.scope()),
        e.criterion(),
        Coded.find(CriterionCode.class, e.criterion() == null ? "" : e.criterion())
            .map(CriterionCode::title)
            .orElse(e.criterion()),
        e.reason(),
        e.proposedBy(),
        e.approvedBy(),
        e.refusedBy(),
        e.from(),
        e.until(),
        estate.matching(e.scope()).size(),
        state == null ? "" : state.feed(),
        state == null ? Instant.EPOCH : state.recordedAt());
  }

  /**
   * A proposal.
   *
   * @param selector which resources, as JSON
   * @param criterion code of what is accepted; empty leaves the resources out of judgement
   * @param until an exception has an end, so that somebody thinks of it again
   */
  record NewException(
      @NotBlank String selector,
      @MayBeAbsent String criterion,
      @NotBlank @Size(max = 1000) String reason,
      @NotNull Instant until) {}

  record Proposed(String key, int resources) {}

  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  Proposed propose(@Valid @RequestBody NewException order, Principal person) {
    Instant now = clock.instant().truncatedTo(ChronoUnit.MILLIS);
    Selector selector = SelectorJson.asked(order.selector());
    if (selector.equals(Selector.EVERYTHING)) {
      throw new Refused("An exception for everything is refused; say which resources it is for.");
    }
    String criterion = order.criterion() == null || order.criterion().isBlank()
        ? null
        : order.criterion().strip();
    if (criterion != null && !known(criterion)) {
      throw new Refused(
          "'" + criterion + "' is no criterion; choose one of those that are listed.");
    }
    if (!order.until().isAfter(now)) {
      throw new Refused("The end " + order.until() + " has been already; choose one to come.");
    }
    if (Duration.between(now, order.until()).toDays() > 366) {
      throw new Refused("An exception ends within a year, so that somebody thinks of it again.");
    }
    int resources = evaluations.now().estate().matching(selector).size();
    if (resources == 0) {
      throw new Refused("No resource matches: " + selector.words() + ".");
    }
    String key = (criterion == null ? "left-out" : criterion) + "-"
        + Long.toString(now.toEpochMilli(), 36).toLowerCase(Locale.ROOT);
    own.put(
        BundleFile.EXCEPTIONS,
        new AcceptedException(
            key,
            selector,
            criterion,
            order.reason().strip(),
            person.getName(),
            null,
            now,
            order.until().truncatedTo(ChronoUnit.MILLIS),
            null),
        null,
        person.getName(),
        now);
    return new Proposed(key, resources);
  }

  private boolean known(String criterion) {
    return Coded.find(CriterionCode.class, criterion).isPresent()
        || evaluations.now().evaluation().standard().own().stream()
            .map(OwnCriterion::code)
            .anyMatch(criterion::equals);
  }

  record Decision(@NotNull Boolean approve) {}

  @PostMapping("/{key}/decision")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void decide(
      @PathVariable String key,
      @RequestHeader("If-Match") String seen,
      @Valid @RequestBody Decision decision,
      Principal person) {
    AcceptedException exception = find(key);
    Instant now = clock.instant();
    if (exception.stateAt(now) != AcceptedException.State.PROPOSED) {
      throw new Refused("'" + key + "' is decided already: it is "
          + exception.stateAt(now).code().replace('-', ' ') + ".");
    }
    if (person.getName().equalsIgnoreCase(exception.proposedBy())) {
      throw new Refused("You proposed this yourself; another person must decide.");
    }
    put(
        decision.approve()
            ? exception.approved(person.getName())
            : exception.refused(person.getName()),
        seen,
        person);
  }

  /** Ends an exception now. What it accepted is a finding again. */
  @PostMapping("/{key}/end")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(@PathVariable String key, @RequestHeader("If-Match") String seen, Principal person) {
    AcceptedException exception = find(key);
    Instant now = clock.instant().truncatedTo(ChronoUnit.MILLIS);
    AcceptedException.State state = exception.stateAt(now);
    if (state != AcceptedException.State.IN_FORCE && state != AcceptedException.State.PROPOSED) {
      throw new Refused("'" + key + "' is not in force: there is nothing to end.");
    }
    put(
        state == AcceptedException.State.PROPOSED
            ? exception.refused(person.getName())
            : exception.endingAt(now),
        seen,
        person);
  }

  private AcceptedException find(String key) {
    return evaluations.now().estate().facts().exceptions().stream()
        .filter(e -> e.key().equals(key))
        .findFirst()
        .orElseThrow(() -> new NotFound("No exception '" + key + "' is known."));
  }

  private void put(AcceptedException changed, String seen, Principal person) {
    own.put(
        BundleFile.EXCEPTIONS,
        changed,
        IfMatch.seen(seen),
        person.getName(),
        clock.instant().truncatedTo(ChronoUnit.MILLIS));
  }
}
