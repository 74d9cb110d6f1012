package hardproof.server.policies;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactKinds;
import hardproof.core.policies.Promises;
import hardproof.core.proof.ResourceResult;
import hardproof.server.activity.Activity;
import hardproof.server.facts.FactStore;
import hardproof.server.facts.Notations;
import hardproof.server.facts.OwnFacts;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.IfMatch;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
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

/** What is promised, what that can come to, and policies that are written here. */
@RestController
@RequestMapping("/api")
class PolicyController {

  private final Evaluations evaluations;
  private final FactStore facts;
  private final OwnFacts own;
  private final Activity activity;
  private final Clock clock;

  PolicyController(
      Evaluations evaluations, FactStore facts, OwnFacts own, Activity activity, Clock clock) {
    this.evaluations = evaluations;
    this.facts = facts;
    this.own = own;
    this.activity = activity;
    this.clock = clock;
  }

  /**
   * What a policy comes to.
   *
   * @param nearly resources that only one condition keeps out of its scope
   * @param cannot resources whose objective it can't keep by its schedule
   * @param windowTooShort resources whose usual run does not fit into its window
   */
  record PolicyJudged(
      int inScope, int nearly, List<String> promises, int cannot, int windowTooShort) {}

  /**
   * A policy with what it can come to.
   *
   * @param fields as in the bundle
   * @param scope in words
   * @param also resources that were put under it here, one by one
   * @param edited when this state was recorded; to be sent back as If-Match
   */
  record PolicyView(
      String key,
      String name,
      String feed,
      boolean ours,
      Map<String, String> fields,
      String scope,
      List<String> also,
      @JsonUnwrapped PolicyJudged judged,
      Instant edited) {}

  @Operation(summary = "Policies as at an instant, with what they cover")
  @GetMapping("/policies")
  List<PolicyView> policies(@ParameterObject AsAt asAt) {
    Evaluated evaluated = evaluations.at(asAt);
    return evaluated.estate().facts().policies().stream()
        .map(p -> view(p, evaluated))
        .sorted(java.util.Comparator.comparing(PolicyView::name).thenComparing(PolicyView::key))
        .toList();
  }

  @Operation(summary = "One policy, with its version as ETag")
  @GetMapping("/policies/{key}")
  ResponseEntity<PolicyView> policy(@PathVariable String key) {
    PolicyView view = view(find(key), evaluations.now());
    return ResponseEntity.ok().eTag(Long.toString(view.edited().toEpochMilli())).body(view);
  }

  private Policy find(String key) {
    return evaluations.now().estate().facts().policies().stream()
        .filter(p -> p.key().equals(key))
        .findFirst()
        .orElseThrow(() -> new NotFound("No policy '" + key + "' is known."));
  }

  private PolicyView view(Policy p, Evaluated evaluated) {
    Estate estate = evaluated.estate();
    FactStore.FactState state =
        facts.fact(BundleFile.POLICIES, List.of(p.key())).orElse(null);
    SelectorController.SelectorMatches matches = SelectorController.matches(p.scope(), estate);
    int cannot = 0;
    int tooShort = 0;
    for (Resource r : estate.facts().resources()) {
      ResourceResult result = evaluated.evaluation().resource(r.key());
      if (result != null && result.policies().contains(p)) {
        cannot += notMet(result, CriterionCode.FRESH_ON_PAPER) ? 1 : 0;
        tooShort += notMet(result, CriterionCode.FRESH_WINDOW) ? 1 : 0;
      }
    }
    return new PolicyView(
        p.key(),
        p.name(),
        state == null ? "" : state.feed(),
        state != null && state.feed().equals(OwnFacts.FEED),
        state == null ? FactKinds.POLICIES.row(p, Notations.KEPT) : state.values(),
        p.scope().words(),
        p.scope().also(),
        new PolicyJudged(
            matches.matched(),
            matches.nearly(),
            Promises.of(p, estate).sentences(),
            cannot,
            tooShort),
        state == null ? Instant.EPOCH : state.recordedAt());
  }

  private static boolean notMet(ResourceResult result, CriterionCode code) {
    Outcome outcome = result.outcome(code);
    return outcome.state() == OutcomeState.NOT_MET || outcome.state() == OutcomeState.EXCEPTED;
  }

  /** Fields of a policy as in the bundle; empty ones are not stated. */
  record PolicyForm(@NotEmpty Map<String, String> fields) {}

  @Operation(summary = "Add a policy")
  @PostMapping("/policies")
  @ResponseStatus(HttpStatus.CREATED)
  void add(@Valid @RequestBody PolicyForm form, Principal person) {
    own.put(
        FactKinds.POLICIES, PolicyFields.read(form.fields(), now()), null, person.getName(), now());
    activity.record(
        person.getName(),
        "policy added",
        String.valueOf(form.fields().get("key")),
        form.fields().toString());
  }

  /** Changes a policy that was written here. If-Match carries the state that the editor saw. */
  @Operation(summary = "Change a policy; If-Match names the version it was read in")
  @PutMapping("/policies/{key}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void change(
      @PathVariable String key,
      @RequestHeader("If-Match") String seen,
      @Valid @RequestBody PolicyForm form,
      Principal person) {
    Map<String, String> fields = new LinkedHashMap<>(form.fields());
    fields.put("key", key);
    own.put(
        FactKinds.POLICIES,
        PolicyFields.read(fields, now()),
        IfMatch.seen(seen),
        person.getName(),
        now());
    activity.record(person.getName(), "policy changed", key, fields.toString());
  }

  private Instant now() {
    return clock.instant().truncatedTo(ChronoUnit.MILLIS);
  }

  /** Resources to be put under a policy, and why. */
  record PolicyAddition(
      @NotBlank String policy,
      @NotEmpty List<String> resources,
      @NotBlank @Size(max = 500) String reason) {}

  @Operation(summary = "Put resources in the scope of a policy")
  @PostMapping("/policy-additions")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void addResources(@Valid @RequestBody PolicyAddition addition, Principal person) {
    Policy policy = find(addition.policy());
    requireNew(addition, policy);
    own.addToPolicy(
        policy.key(), addition.resources(), addition.reason().strip(), person.getName(), now());
    activity.record(
        person.getName(),
        "put under a policy",
        policy.key(),
        String.join(", ", addition.resources()) + ": " + addition.reason().strip());
  }

  private void requireNew(PolicyAddition addition, Policy policy) {
    Estate estate = evaluations.now().estate();
    for (String key : addition.resources()) {
      Resource resource = estate.resource(key);
      if (resource == null) {
        throw new NotFound("No resource '" + key + "' is known.");
      }
      if (policy.scope().matches(resource, estate.tierOf(resource))) {
        throw new Refused(resource.name() + " is in the scope of " + policy.name() + " already.");
      }
    }
  }

  @Operation(summary = "Take a resource out of the scope of a policy")
  @DeleteMapping("/policy-additions/{policy}/{resource}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void removeResource(
      @PathVariable String policy, @PathVariable String resource, Principal person) {
    own.removeFromPolicy(policy, resource, person.getName(), now());
    activity.record(person.getName(), "taken from a policy", policy, resource);
  }
}
