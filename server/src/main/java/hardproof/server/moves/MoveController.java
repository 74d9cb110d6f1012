package hardproof.server.moves;

import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.moves.GoingBack;
import hardproof.core.moves.Return;
import hardproof.core.moves.ReturnStep;
import hardproof.server.activity.Activity;
import hardproof.server.facts.FactStore;
import hardproof.server.programmes.CapacityStore;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What runs elsewhere than before, and what is needed until it is home as it was. */
@RestController
@RequestMapping("/api/moves")
class MoveController {
  private final Evaluations evaluations;
  private final FactStore facts;
  private final CapacityStore capacities;
  private final SettledStore settled;
  private final Activity activity;
  private final Clock clock;

  MoveController(
      Evaluations evaluations,
      FactStore facts,
      CapacityStore capacities,
      SettledStore settled,
      Activity activity,
      Clock clock) {
    this.evaluations = evaluations;
    this.facts = facts;
    this.capacities = capacities;
    this.settled = settled;
    this.activity = activity;
    this.clock = clock;
  }

  /**
   * One of the steps back.
   *
   * @param state done, open, waits (an earlier one comes first), not-known or missed (it can't be done any more)
   */
  record ReturnStepView(ReturnStep step, ReturnStep.State state, String sentence) {}

  /**
   * A resource that is away, or back and not yet as it was.
   *
   * @param left when facts first put it elsewhere
   * @param back when facts first put it home again; absent while it is away
   * @param dataTime of the newest point from there that lies at home
   * @param store at home that it would be read from
   * @param restoreMs how long a restore from there takes alone
   * @param estimatedFrom what says so
   */
  record ReturnView(
      String resource,
      String name,
      String home,
      String away,
      Instant left,
      @Nullable Instant back,
      @Nullable Instant dataTime,
      @Nullable String store,
      @Nullable Long restoreMs,
      @Nullable String estimatedFrom,
      List<ReturnStepView> steps) {}

  /**
   * The way back of a workload.
   *
   * @param workload absent for resources that belong to none
   * @param backMs until all that are away are home, by the order of what needs what; absent where that can't be said
   */
  record GoingBackView(
      @Nullable String workload,
      String name,
      @Nullable Integer tier,
      String sentence,
      @Nullable Long backMs,
      List<ReturnView> members) {}

  @Operation(
      summary = "What runs elsewhere than before, and what is needed until it is home as it was")
  @GetMapping
  List<GoingBackView> moves(@ParameterObject AsAt asAt) {
    Evaluated evaluated = evaluations.at(asAt);
    Instant said = asAt.asAt() == null ? clock.instant() : evaluated.estate().asAt();
    return goingBack(evaluated, said).stream()
        .map(g -> view(evaluated.estate(), g))
        .toList();
  }

  /**
   * @param said by when people said what they did: an evaluation of now may be older than that
   */
  private List<GoingBack> goingBack(Evaluated evaluated, Instant said) {
    Estate estate = evaluated.estate();
    return GoingBack.of(
        estate,
        evaluated.evaluation().standard(),
        facts.stays(estate.asAt()),
        settled.at(said),
        Math.max(1, capacities.at(estate.asAt()).capacity().atOnce()));
  }

  private static GoingBackView view(Estate estate, GoingBack g) {
    Workload workload = g.workload();
    return new GoingBackView(
        workload == null ? null : workload.key(),
        workload == null ? "Of no workload" : workload.name(),
        workload == null ? null : workload.tier(),
        g.sentence(),
        g.total(),
        g.members().stream().map(r -> view(estate, r)).toList());
  }

  private static ReturnView view(Estate estate, Return r) {
    return new ReturnView(
        r.move().resource().key(),
        r.move().resource().name(),
        r.move().home(),
        r.move().away(),
        r.move().left(),
        r.move().back(),
        r.carried() == null ? null : r.carried().dataTime(),
        r.store() == null ? null : estate.storeName(r.store()),
        r.time() == null ? null : r.time().median().toMillis(),
        r.time() == null ? null : r.time().words(),
        r.steps().stream()
            .map(s -> new ReturnStepView(s.step(), s.state(), s.sentence()))
            .toList());
  }

  /** A resource, and why it belongs where it is. */
  record SettledDraft(
      @NotBlank String resource, @NotBlank @Size(max = 500) String reason) {}

  @Operation(
      summary =
          "Says that a resource belongs where it is now, as it is: what it left is not gone back to")
  @PostMapping("/settled")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void settle(@RequestBody @Valid SettledDraft draft, Principal person) {
    Evaluated now = evaluations.now();
    String resource = draft.resource();
    if (now.estate().resource(resource) == null) {
      throw new NotFound("No resource '" + resource + "' is known.");
    }
    boolean moved = goingBack(now, clock.instant()).stream()
        .flatMap(g -> g.members().stream())
        .anyMatch(r -> r.move().resource().key().equals(resource));
    if (!moved) {
      throw new Refused("'" + resource
          + "' is where it was and as it was, as far as facts tell: there is nothing to settle.");
    }
    settled.add(resource, person.getName(), draft.reason().strip(), clock.instant());
    activity.record(person.getName(), "move settled", resource, draft.reason().strip());
  }
}
