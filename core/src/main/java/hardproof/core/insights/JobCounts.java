package hardproof.core.insights;

import hardproof.core.estate.Job;
import hardproof.core.facts.Estate;
import java.time.Instant;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Jobs of a type by outcome, what went wrong first. */
public record JobCounts(Job.Type type, Map<String, Integer> outcomes) {
  private static final List<Job.Result> WORST_FIRST = List.of(
      Job.Result.FAILED,
      Job.Result.WARNING,
      Job.Result.CANCELLED,
      Job.Result.RUNNING,
      Job.Result.SUCCEEDED);

  /** Of the jobs that ended, or where they have not, began, after an instant. */
  public static List<JobCounts> since(Estate estate, Instant since) {
    Map<Job.Type, Map<String, Integer>> counts = new LinkedHashMap<>();
    estate.facts().jobs().stream()
        .filter(j -> (j.ended() == null ? j.started() : j.ended()).isAfter(since))
        .sorted(
            Comparator.comparing(Job::type).thenComparing(j -> WORST_FIRST.indexOf(j.outcome())))
        .forEach(j -> counts
            .computeIfAbsent(j.type(), k -> new LinkedHashMap<>())
            .merge(j.outcome().code(), 1, Integer::sum));
    return counts.entrySet().stream()
        .map(e -> new JobCounts(e.getKey(), e.getValue()))
        .toList();
  }
}
