package hardproof.server.policies;

import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.policies.NextToGo;
import hardproof.core.policies.Promises;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Differences;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What would be if: a policy changed, resources put under one, or time going on. Changes nothing. */
@RestController
@RequestMapping("/api")
class PolicyTrialController {
  private static final int FIRST_POINTS_SHOWN = 20;
  private static final int LEAVING_SHOWN = 60;
  private static final List<Integer> DAYS_AHEAD = List.of(0, 1, 7, 14, 30, 60, 90);

  private final Evaluations evaluations;
  private final Clock clock;

  PolicyTrialController(Evaluations evaluations, Clock clock) {
    this.evaluations = evaluations;
    this.clock = clock;
  }

  /**
   * What a change would do.
   *
   * @param firstPoints for resources that come into scope, by when the first point would be there
   */
  record PolicyTrial(Differences differences, List<String> firstPoints, int inScope) {}

  /**
   * A change to try: either the fields of a policy, or resources to be put under one.
   *
   * @param resources keys; with {@code policy}
   */
  record PolicyTrialForm(
      @Nullable Map<String, String> fields,
      @Nullable String policy,
      @Nullable List<String> resources) {}

  @Operation(summary = "What a policy would change, before it is saved")
  @PostMapping("/policy-trials")
  PolicyTrial tryOut(@Valid @RequestBody PolicyTrialForm form) {
    Evaluated evaluated = evaluations.now();
    Estate before = evaluated.estate();
    Policy policy = tried(form, before);
    Estate after = before.with(with(before.facts(), policy));
    Evaluation result = Evaluator.evaluate(after, evaluated.evaluation().standard());
    List<Resource> scope = scope(policy, after);
    return new PolicyTrial(
        Differences.of(evaluated.evaluation(), result),
        firstPoints(before, policy, scope),
        scope.size());
  }

  private Policy tried(PolicyTrialForm form, Estate before) {
    return form.fields() != null
        ? PolicyFields.read(form.fields(), clock.instant())
        : withResources(before, form);
  }

  private static List<Resource> scope(Policy policy, Estate after) {
    return after.facts().resources().stream()
        .filter(r -> policy.scope().matches(r, after.tierOf(r)))
        .toList();
  }

  private static List<String> firstPoints(Estate before, Policy policy, List<Resource> scope) {
    return scope.stream()
        .filter(r -> before.policiesOf(r).stream().noneMatch(p -> p.key().equals(policy.key())))
        .limit(FIRST_POINTS_SHOWN)
        .map(r -> Promises.firstPoint(policy, r, before))
        .toList();
  }

  private static Policy withResources(Estate estate, PolicyTrialForm form) {
    Policy policy = estate.facts().policies().stream()
        .filter(p -> p.key().equals(form.policy()))
        .findFirst()
        .orElseThrow(() -> new NotFound("No policy '" + form.policy() + "' is known."));
    return policy.withScope(
        policy.scope().withAlso(form.resources() == null ? List.of() : form.resources()));
  }

  private static Facts with(Facts f, Policy changed) {
    List<Policy> policies = new ArrayList<>(f.policies());
    policies.removeIf(p -> p.key().equals(changed.key()));
    policies.add(changed);
    return f.withPolicies(policies);
  }

  /** What of a resource's points goes when, and what reach is left on days to come. */
  record NextToGoView(
      String resource, @Nullable String policy, List<LeavingPoint> points, List<ReachOn> reach) {}

  /** A point that is to go; {@code leaves} absent when nothing says when. */
  record LeavingPoint(
      String point, Instant dataTime, @Nullable Instant leaves) {}

  record ReachOn(Instant day, @Nullable Long reachMs) {}

  @Operation(summary = "Which points of a resource go next by the retention that is promised")
  @GetMapping("/resources/{key}/next-to-go")
  NextToGoView nextToGo(@PathVariable String key, @ParameterObject AsAt asAt) {
    Estate estate = evaluations.at(asAt).estate();
    Resource resource = estate.resource(key);
    if (resource == null) {
      throw new NotFound("No resource '" + key + "' is known.");
    }
    NextToGo next = NextToGo.of(resource, estate);
    return new NextToGoView(
        key,
        next.policy() == null ? null : next.policy().name(),
        leaving(next),
        DAYS_AHEAD.stream()
            .map(d -> estate.asAt().plus(Duration.ofDays(d)))
            .map(day -> {
              Duration reach = next.reachOn(day);
              return new ReachOn(day, reach == null ? null : reach.toMillis());
            })
            .toList());
  }

  private static List<PolicyTrialController.LeavingPoint> leaving(NextToGo next) {
    return next.leaving().stream()
        .limit(LEAVING_SHOWN)
        .map(l -> new LeavingPoint(l.point().key(), l.point().dataTime(), l.leaves()))
        .toList();
  }
}
