package hardproof.core.proof;

import hardproof.core.criteria.Standard;
import hardproof.core.facts.Layered;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Everything that came out of the facts at one instant, worst workload first. Immutable. */
public final class Evaluation {
  private final Instant asAt;
  private final Instant knownAt;
  private final Standard standard;
  private final List<WorkloadResult> workloads;
  private final Layered<WorkloadResult> byKey;
  private final Layered<ResourceResult> byResource;

  Evaluation(Instant asAt, Instant knownAt, Standard standard, List<WorkloadResult> workloads) {
    this.asAt = asAt;
    this.knownAt = knownAt;
    this.standard = standard;
    this.workloads = List.copyOf(workloads);
    this.byKey = Layered.of(byKey(workloads));
    this.byResource = Layered.of(byResource(workloads));
  }

  /** What did not change is not put together again, which in a large estate would take longest. */
  private Evaluation(
      Evaluation before, List<WorkloadResult> workloads, Collection<WorkloadResult> changed) {
    this.asAt = before.asAt;
    this.knownAt = before.knownAt;
    this.standard = before.standard;
    this.workloads = List.copyOf(workloads);
    this.byKey = before.byKey.with(byKey(changed));
    this.byResource = before.byResource.with(byResource(changed));
  }

  private static Map<String, WorkloadResult> byKey(Collection<WorkloadResult> workloads) {
    Map<String, WorkloadResult> byKey = new HashMap<>();
    workloads.forEach(w -> byKey.put(w.workload().key(), w));
    return byKey;
  }

  private static Map<String, ResourceResult> byResource(Collection<WorkloadResult> workloads) {
    Map<String, ResourceResult> byResource = new HashMap<>();
    workloads.forEach(w -> w.members().forEach(m -> byResource.put(m.resource().key(), m)));
    return byResource;
  }

  /** The same with these results of workloads, of the same members, in place of those it has. */
  Evaluation with(Collection<WorkloadResult> changed, Comparator<WorkloadResult> order) {
    Map<String, WorkloadResult> others = byKey(changed);
    List<WorkloadResult> all = new ArrayList<>(workloads);
    all.replaceAll(w -> others.getOrDefault(w.workload().key(), w));
    all.sort(order);
    return new Evaluation(this, all, changed);
  }

  public Instant asAt() {
    return asAt;
  }

  /** Facts recorded until then were used; that of {@link #asAt} unless it is looked at in hindsight. */
  public Instant knownAt() {
    return knownAt;
  }

  /** The oldest instant up to which any of the points it rests on have been told of. */
  public Instant horizon() {
    return workloads.stream()
        .flatMap(w -> w.members().stream())
        .filter(m -> m.verdict() != Verdict.EXCLUDED)
        .map(ResourceResult::horizon)
        .min(Comparator.naturalOrder())
        .orElse(asAt);
  }

  public Standard standard() {
    return standard;
  }

  public List<WorkloadResult> workloads() {
    return workloads;
  }

  /** The workloads that have any of these resources among their members, each judged as a whole. */
  public Evaluation about(Set<String> resources) {
    return new Evaluation(
        asAt,
        knownAt,
        standard,
        workloads.stream()
            .filter(w -> w.members().stream()
                .anyMatch(m -> resources.contains(m.resource().key())))
            .toList());
  }

  public Map<Verdict, Integer> counts() {
    Map<Verdict, Integer> counts = new EnumMap<>(Verdict.class);
    workloads.forEach(w -> counts.merge(w.verdict(), 1, Integer::sum));
    return counts;
  }

  /** Null when there is none with that key. */
  public WorkloadResult workload(String key) {
    return byKey.get(key);
  }

  /** The workload that a resource counts in: its own, or itself where that is not known. */
  public WorkloadResult workloadOf(ResourceResult member) {
    WorkloadResult own = byKey.get(member.resource().workload());
    return own != null ? own : byKey.get(Evaluator.alone(member.resource()).key());
  }

  /** Null when there is none with that key. */
  public ResourceResult resource(String key) {
    return byResource.get(key);
  }
}
