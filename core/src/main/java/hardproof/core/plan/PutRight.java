package hardproof.core.plan;

import hardproof.core.copies.Copy;
import hardproof.core.criteria.Parameter;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;

/** Facts as they would be if what somebody has to look at had been found and put right. */
final class PutRight {
  private final Estate estate;
  private final Evaluation evaluation;
  private final AsIf asIf;

  PutRight(Estate estate, Evaluation evaluation, AsIf asIf) {
    this.estate = estate;
    this.evaluation = evaluation;
    this.asIf = asIf;
  }

  /** By the code of what is wrong; empty where that is gone for good, or what would be right is not known. */
  Optional<Estate> of(String code, List<String> resources) {
    Instant now = estate.asAt();
    return switch (code) {
      case "cover-credentials" ->
        changed(
            resources, r -> r.withTimes(r.lastSeen(), r.agentSeen(), r.credentialsChanged(), now));
      case "cover-agent" ->
        changed(
            resources,
            r -> r.withTimes(r.lastSeen(), now, r.credentialsChanged(), r.credentialsTested()));
      case "cover-seen" ->
        changed(
            resources,
            r -> r.missing(null)
                .withTimes(now, r.agentSeen(), r.credentialsChanged(), r.credentialsTested()));
      case "cover-important" -> nothingLeftOut(resources);
      case "proof-clean-up" -> cleanedUp(resources);
      case "proof-not-renewed" -> Optional.of(asIf.drilled(resources));
      case "safe-deletion" -> deletionByMore(resources);
      default ->
        code.startsWith("sound-") || code.startsWith("safe-")
            ? Optional.of(asIf.backedUp(resources))
            : Optional.empty();
    };
  }

  private Optional<Estate> changed(List<String> resources, UnaryOperator<Resource> change) {
    Set<String> keys = new HashSet<>(resources);
    return Optional.of(with(estate
        .facts()
        .withResources(estate.facts().resources().stream()
            .map(r -> keys.contains(r.key()) ? change.apply(r) : r)
            .toList())));
  }

  private Estate with(Facts facts) {
    return estate.with(facts);
  }

  private Optional<Estate> nothingLeftOut(List<String> resources) {
    Set<String> policies = new HashSet<>();
    results(resources).forEach(r -> r.policies().forEach(p -> policies.add(p.key())));
    return Optional.of(with(estate
        .facts()
        .withPolicies(estate.facts().policies().stream()
            .map(p -> policies.contains(p.key()) ? p.withExclude(List.of()) : p)
            .toList())));
  }

  private Optional<Estate> cleanedUp(List<String> resources) {
    Set<String> keys = new HashSet<>();
    results(resources).forEach(r -> keys.add(r.protector().key()));
    return Optional.of(with(estate
        .facts()
        .withDrills(estate.facts().drills().stream()
            .map(d -> keys.contains(d.resource()) && d.cleanup() == CleanupState.FAILED
                ? cleanedUp(d)
                : d)
            .toList())));
  }

  private static DrillFact cleanedUp(DrillFact d) {
    return new DrillFact(
        d.run(),
        d.of(),
        d.method(),
        d.reaches(),
        new DrillFact.Answers(d.answers().restore(), d.answers().checks(), CleanupState.DONE),
        d.times(),
        d.bytes(),
        d.blame(),
        d.sentence());
  }

  /** As many people as the strictest of them demands, on every store that holds a copy of them. */
  private Optional<Estate> deletionByMore(List<String> resources) {
    long most = 0;
    Set<String> stores = new HashSet<>();
    for (ResourceResult result : results(resources)) {
      Long demanded = result.demand().value(Parameter.DELETE_APPROVALS);
      most = Math.max(most, demanded == null ? 0 : demanded);
      for (var point : estate.pointsOf(result.protector().key())) {
        estate.copiesOf(point).stream().map(Copy::store).forEach(stores::add);
      }
    }
    int people = (int) most;
    return Optional.of(with(estate
        .facts()
        .withStores(estate.facts().stores().stream()
            .map(s -> stores.contains(s.key())
                    && (s.deleteApprovals() == null || s.deleteApprovals() < people)
                ? s.deletedBy(people)
                : s)
            .toList())));
  }

  /** Points are kept for as long as the strictest of them demands; those that are gone do not come back. */
  Optional<Estate> keptLongEnough(List<String> resources) {
    Set<String> policies = new HashSet<>();
    long reachMs = 0;
    for (ResourceResult result : results(resources)) {
      result.policies().forEach(p -> policies.add(p.key()));
      Long reach = result.demand().value(Parameter.REACH);
      reachMs = Math.max(reachMs, reach == null ? 0 : reach);
    }
    Duration reach = Duration.ofMillis(reachMs);
    return reach.isZero()
        ? Optional.empty()
        : Optional.of(with(estate
            .facts()
            .withPolicies(estate.facts().policies().stream()
                .map(p -> policies.contains(p.key()) ? kept(p, reach) : p)
                .toList())));
  }

  private Policy kept(Policy policy, Duration reach) {
    return policy.withRetention(
        policy.retention().reaching(reach, policy.longestGap(estate.asAt()).orElse(null)));
  }

  private List<ResourceResult> results(List<String> resources) {
    return resources.stream().map(evaluation::resource).filter(Objects::nonNull).toList();
  }
}
