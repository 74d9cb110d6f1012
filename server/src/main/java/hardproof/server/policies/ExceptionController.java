package hardproof.server.policies;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OwnCriterion;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Coverage;
import hardproof.core.estate.Selector;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.FactKinds;
import hardproof.core.wording.Coded;
import hardproof.server.facts.FactStore;
import hardproof.server.facts.OwnFacts;
import hardproof.server.facts.SelectorJson;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.IfMatch;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.servlet.http.HttpServletRequest;
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
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
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
  private final ExceptionDesk desk;
  private final OwnFacts own;
  private final Clock clock;

  ExceptionController(Evaluations evaluations, ExceptionDesk desk, OwnFacts own, Clock clock) {
    this.evaluations = evaluations;
    this.desk = desk;
    this.own = own;
    this.clock = clock;
  }

  /** What it is about, in words and as a selector, with what that covers now. */
  record ExceptionScope(
      String scope, String selector, int resources, String covers, boolean wide) {}

  /** Absent where it leaves resources out altogether. */
  record ExceptionCriterion(
      @Nullable String criterion, @Nullable String title) {}

  /** Who said what of it. */
  record ExceptionPeople(
      @Nullable String proposedBy,
      @Nullable String approvedBy,
      @Nullable String refusedBy,
      @Nullable String claimedApprover) {}

  /**
   * An exception.
   *
   * @param feed where it comes from; "written here" for those made on the screen
   * @param objection why who asks may not decide it; absent when they may
   * @param edited when this state was recorded; to be sent back as If-Match
   */
  record ExceptionView(
      String key,
      AcceptedException.State state,
      @JsonUnwrapped ExceptionScope scope,
      @JsonUnwrapped ExceptionCriterion criterion,
      String reason,
      @JsonUnwrapped ExceptionPeople people,
      @Nullable Instant from,
      @Nullable Instant until,
      String feed,
      @Nullable String objection,
      Instant edited) {}

  @Operation(summary = "Exceptions with their state as at an instant")
  @GetMapping
  List<ExceptionView> exceptions(@ParameterObject AsAt asAt, Principal person) {
    Estate estate = evaluations.at(asAt).estate();
    return estate.facts().exceptions().stream()
        .map(e -> view(e, estate, person.getName()))
        .flatMap(Optional::stream)
        .sorted(Comparator.comparing((ExceptionView v) -> order(v.state()))
            .thenComparing(v -> v.until() == null ? Instant.MAX : v.until())
            .thenComparing(ExceptionView::key))
        .toList();
  }

  private static int order(AcceptedException.State state) {
    return state == AcceptedException.State.REFUSED ? 9 : state.ordinal();
  }

  /** Empty where a decision about a feed's proposal stands in its place. */
  private Optional<ExceptionView> view(AcceptedException e, Estate estate, String person) {
    FactStore.FactState state = desk.state(e.key());
    String feed = state == null ? "" : state.feed();
    if (!feed.equals(OwnFacts.FEED)
        && ExceptionDesk.decisionAbout(e, feed, estate.facts().exceptions()).isPresent()) {
      return Optional.empty();
    }
    return shown(e, estate, person, state, feed);
  }

  private Optional<ExceptionView> shown(
      AcceptedException e, Estate estate, String person, FactStore.FactState state, String feed) {
    Coverage coverage = estate.coverage(e.scope());
    return Optional.of(new ExceptionView(
        e.key(),
        e.stateAt(estate.asAt()),
        new ExceptionScope(
            e.scope().words(),
            SelectorJson.write(e.scope()),
            coverage.resources(),
            coverage.sentence(),
            coverage.wide()),
        new ExceptionCriterion(
            e.criterion(),
            Coded.find(CriterionCode.class, e.criterion() == null ? "" : e.criterion())
                .map(CriterionCode::title)
                .orElse(e.criterion())),
        e.reason(),
        new ExceptionPeople(e.proposedBy(), e.approvedBy(), e.refusedBy(), e.claimedApprover()),
        e.from(),
        e.until(),
        feed,
        desk.objection(e, state, person),
        state == null ? Instant.EPOCH : state.recordedAt()));
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
      @Nullable String criterion,
      @NotBlank @Size(max = 1000) String reason,
      @NotNull Instant until) {}

  record Proposed(String key, int resources) {}

  @Operation(summary = "Propose an exception")
  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  Proposed propose(@Valid @RequestBody NewException order, Principal person) {
    Instant now = clock.instant().truncatedTo(ChronoUnit.MILLIS);
    Selector selector = chosen(order);
    String criterion = criterion(order);
    requireEnd(order, now);
    int resources = matching(selector);
    String key = (criterion == null ? "left-out" : criterion) + "-"
        + Long.toString(now.toEpochMilli(), 36).toLowerCase(Locale.ROOT);
    own.put(
        FactKinds.EXCEPTIONS,
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

  private static Selector chosen(NewException order) {
    Selector selector = SelectorJson.asked(order.selector());
    if (selector.equals(Selector.EVERYTHING)) {
      throw new Refused("An exception for everything is refused; say which resources it is for.");
    }
    return selector;
  }

  private String criterion(NewException order) {
    String criterion = order.criterion() == null || order.criterion().isBlank()
        ? null
        : order.criterion().strip();
    if (criterion != null && !known(criterion)) {
      throw new Refused(
          "'" + criterion + "' is no criterion; choose one of those that are listed.");
    }
    return criterion;
  }

  private static void requireEnd(NewException order, Instant now) {
    if (!order.until().isAfter(now)) {
      throw new Refused("The end " + order.until() + " has been already; choose one to come.");
    }
    if (Duration.between(now, order.until()).toDays() > 366) {
      throw new Refused("An exception ends within a year, so that somebody thinks of it again.");
    }
  }

  private int matching(Selector selector) {
    int resources = evaluations.now().estate().matching(selector).size();
    if (resources == 0) {
      throw new Refused("No resource matches: " + selector.words() + ".");
    }
    return resources;
  }

  private boolean known(String criterion) {
    return Coded.find(CriterionCode.class, criterion).isPresent()
        || evaluations.now().evaluation().standard().own().stream()
            .map(OwnCriterion::code)
            .anyMatch(criterion::equals);
  }

  /**
   * A decision.
   *
   * @param resources how many it covers, as the person saw; needed to approve what covers much
   */
  record Decision(@NotNull Boolean approve, @Nullable Integer resources) {}

  @Operation(summary = "Approve or refuse an exception")
  @PostMapping("/{key}/decision")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void decide(
      @PathVariable String key,
      @RequestHeader("If-Match") String seen,
      @Valid @RequestBody Decision decision,
      Principal person) {
    desk.decide(
        key,
        decision.approve(),
        IfMatch.seen(seen),
        decision.resources(),
        person.getName(),
        clock.instant().truncatedTo(ChronoUnit.MILLIS));
  }

  /** Ends an exception now, so that what it accepted is a finding again; or takes a proposal back. */
  @Operation(summary = "End an exception before its time")
  @PostMapping("/{key}/end")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(
      @PathVariable String key,
      @RequestHeader("If-Match") String seen,
      HttpServletRequest request,
      Principal person) {
    desk.end(
        key,
        IfMatch.seen(seen),
        request.isUserInRole("APPROVER"),
        person.getName(),
        clock.instant());
  }
}
