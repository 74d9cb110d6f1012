package hardproof.core.insights;

import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Job;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.points.PointOutcome;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** Why something failed, and how often. {@code kind} is backup, copy, restore, point or drill. */
public record FailureCause(
    String kind, String cause, int times, int resources, Instant first, Instant last) {

  /**
   * Failed jobs by type and message, points that are not complete, and drills that failed; the most frequent first.
   *
   * @param about whether a resource, by its key, is looked at
   */
  public static List<FailureCause> between(
      Estate estate, Instant from, Instant to, Predicate<String> about) {
    Failures failures = new Failures(new Period(from, to));
    addJobs(estate, about, failures);
    addPoints(estate, about, failures);
    for (DrillFact drill : estate.facts().drills()) {
      if (drill.failed() && about.test(drill.resource())) {
        failures.add("drill", text(drill.sentence()), drill.resource(), drill.ended());
      }
    }
    return failures.causes();
  }

  private static void addJobs(Estate estate, Predicate<String> about, Failures failures) {
    for (Job job : estate.facts().jobs()) {
      boolean looked = about.test(job.resource() == null ? "" : job.resource());
      if (looked && job.outcome() == Job.Result.FAILED) {
        Instant at = job.ended() == null ? job.started() : job.ended();
        failures.add(job.type().code(), text(job.message()), job.resource(), at);
      }
    }
  }

  private static void addPoints(Estate estate, Predicate<String> about, Failures failures) {
    for (Resource resource : estate.facts().resources()) {
      if (about.test(resource.key())) {
        failures.addPoints(resource.key(), estate.pointSet(resource.key()));
      }
    }
  }

  private static String text(@Nullable String message) {
    return message == null || message.isBlank() ? "no message" : message;
  }

  private record Failed(@Nullable String resource, Instant at) {}

  private record Why(String kind, String cause) {}

  private static final class Failures {
    private final Period period;
    private final Map<Why, List<Failed>> byCause = new HashMap<>();

    Failures(Period period) {
      this.period = period;
    }

    void add(String kind, String cause, @Nullable String resource, Instant at) {
      if (period.holds(at)) {
        byCause
            .computeIfAbsent(new Why(kind, cause), k -> new ArrayList<>())
            .add(new Failed(resource, at));
      }
    }

    void addPoints(String resource, PointSet set) {
      for (int row = 0; row < set.size(); row++) {
        if (set.outcome(row) != PointOutcome.COMPLETE) {
          long available = set.available(row);
          long at = available == PointSet.NONE ? set.dataTime(row) : available;
          String cause = "its outcome is " + set.outcome(row).code();
          add("point", cause, resource, Instant.ofEpochMilli(at));
        }
      }
    }

    List<FailureCause> causes() {
      return byCause.entrySet().stream()
          .map(e -> cause(e.getKey(), e.getValue()))
          .sorted(Comparator.comparing(FailureCause::times)
              .reversed()
              .thenComparing(FailureCause::kind)
              .thenComparing(FailureCause::cause))
          .toList();
    }

    private static FailureCause cause(Why why, List<Failed> failed) {
      return new FailureCause(
          why.kind(),
          why.cause(),
          failed.size(),
          (int)
              failed.stream().map(f -> String.valueOf(f.resource())).distinct().count(),
          failed.stream().map(Failed::at).min(Comparator.naturalOrder()).orElseThrow(),
          failed.stream().map(Failed::at).max(Comparator.naturalOrder()).orElseThrow());
    }
  }
}
