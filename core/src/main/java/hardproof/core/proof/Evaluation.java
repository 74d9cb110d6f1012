package hardproof.core.proof;

import hardproof.core.criteria.Standard;
import java.time.Instant;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** Everything that came out of the facts at one instant, worst workload first. */
public record Evaluation(Instant asAt, Standard standard, List<WorkloadResult> workloads) {

  public Map<Verdict, Integer> counts() {
    Map<Verdict, Integer> counts = new EnumMap<>(Verdict.class);
    workloads.forEach(w -> counts.merge(w.verdict(), 1, Integer::sum));
    return counts;
  }

  /** Null when there is none with that key. */
  public WorkloadResult workload(String key) {
    return workloads.stream()
        .filter(w -> w.workload().key().equals(key))
        .findFirst()
        .orElse(null);
  }
}
