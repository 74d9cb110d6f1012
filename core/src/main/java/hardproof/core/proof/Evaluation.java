package hardproof.core.proof;

import hardproof.core.criteria.Standard;
import java.time.Instant;
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
  private final Map<String, WorkloadResult> byKey = new HashMap<>();
  private final Map<String, ResourceResult> byResource = new HashMap<>();

  Evaluation(Instant asAt, Instant knownAt, Standard standard, List<WorkloadResult> workloads) {
    this.asAt = asAt;
    this.knownAt = knownAt;
    this.standard = standard;
    this.workloads = List.copyOf(workloads);
    for (WorkloadResult workload : workloads) {
      byKey.put(workload.workload().key(), workload);
      workload.members().forEach(m -> byResource.put(m.resource().key(), m));
    }
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
