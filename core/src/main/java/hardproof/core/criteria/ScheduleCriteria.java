package hardproof.core.criteria;

import static hardproof.core.criteria.Criteria.metIf;
import static hardproof.core.criteria.Criteria.notAsked;
import static hardproof.core.criteria.Criteria.notDemanded;
import static hardproof.core.criteria.Criteria.outcome;
import static hardproof.core.criteria.Criteria.unknown;

import hardproof.core.estate.Feed;
import hardproof.core.estate.Job;
import hardproof.core.estate.Policy;
import hardproof.core.facts.PointSet;
import hardproof.core.points.PointOutcome;
import hardproof.core.schedule.RunTimes;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Can what was planned work at all, and did the last runs? */
final class ScheduleCriteria {
  private ScheduleCriteria() {}

  private record Promise(Policy policy, Duration gap) {}

  /** Of several policies the one that promises the most counts. */
  private static Optional<Promise> best(Subject s) {
    return s.policies().stream()
        .flatMap(p -> p.longestGap(s.asAt()).map(g -> new Promise(p, g)).stream())
        .min(Comparator.comparing(Promise::gap));
  }

  static Outcome onPaper(Subject s) {
    CriterionCode code = CriterionCode.FRESH_ON_PAPER;
    if (s.policies().isEmpty()) {
      return notAsked(code, s, "no policy has it in scope: there is no schedule to judge");
    }
    Optional<Promise> best = best(s);
    Duration rpo = s.demand().rpo();
    if (best.isEmpty()) {
      return unknown(
          code, s, "no policy of it states a schedule that starts twice", "schedules = 0");
    }
    Duration gap = best.get().gap();
    RunTimes usual = s.runTimes();
    if (usual == null && gap.compareTo(rpo) <= 0) {
      return unknown(
          code,
          s,
          "the schedule of " + best.get().policy().name() + " starts every " + Wording.duration(gap)
              + " at the longest; how long a run takes is not known yet",
          "longest gap " + Wording.duration(gap) + " + usual run time, not known");
    }
    Duration run = usual == null ? Duration.ZERO : usual.median();
    Duration sum = gap.plus(run);
    boolean met = sum.compareTo(rpo) <= 0;
    Duration slow = usual == null ? sum : gap.plus(usual.p95());
    String sentence = "the schedule of " + best.get().policy().name() + " leaves at the longest "
        + Wording.duration(gap) + " between starts and a run usually takes " + Wording.duration(run)
        + ": " + Wording.duration(sum) + ", "
        + Wording.duration(sum.minus(rpo).abs())
        + (met ? " inside the " : " over the ") + Wording.duration(rpo) + " objective"
        + (met
            ? slow.compareTo(rpo) > 0
                ? "; 1 run in 20 takes " + Wording.duration(usual.p95()) + ", which is over it"
                : ""
            : "; it can never be met on this schedule");
    return outcome(
        code,
        s,
        metIf(met),
        Measure.of(sum),
        Measure.of(rpo),
        sentence,
        "longest gap " + Wording.duration(gap) + " + median run " + Wording.duration(run)
            + (usual == null ? "" : " (of " + Wording.count(usual.runs(), "run", "runs") + ")")
            + " = " + Wording.duration(sum) + " ≤ RPO " + Wording.duration(rpo)
            + "; with the 95th percentile " + Wording.duration(slow),
        List.of(new FactRef("policies", best.get().policy().key())));
  }

  static Outcome window(Subject s) {
    CriterionCode code = CriterionCode.FRESH_WINDOW;
    List<Policy> windows = s.policies().stream()
        .filter(p -> p.startWindow() != null && p.completeWithin() != null)
        .toList();
    if (windows.isEmpty()) {
      return notAsked(code, s, "no policy of it has both a start window and a time to be done in");
    }
    RunTimes usual = s.runTimes();
    if (usual == null) {
      return unknown(code, s, "how long a run takes is not known yet", "runs = 0");
    }
    Policy tightest = windows.stream()
        .max(Comparator.comparing(p -> p.startWindow().minus(p.completeWithin())))
        .orElseThrow();
    Duration sum = tightest.startWindow().plus(usual.median());
    boolean met = sum.compareTo(tightest.completeWithin()) <= 0;
    Duration margin = tightest.completeWithin().minus(sum).abs();
    return outcome(
        code,
        s,
        metIf(met),
        Measure.of(sum),
        Measure.of(tightest.completeWithin()),
        "a job of " + tightest.name() + " may begin "
            + Wording.duration(tightest.startWindow()) + " late and usually takes "
            + Wording.duration(usual.median()) + ": done after " + Wording.duration(sum) + ", "
            + Wording.duration(margin)
            + (met ? " before it has to be" : " after it has to be: such jobs must fail"),
        "start window " + Wording.duration(tightest.startWindow()) + " + median run "
            + Wording.duration(usual.median()) + " = " + Wording.duration(sum)
            + " ≤ complete within " + Wording.duration(tightest.completeWithin()),
        List.of(new FactRef("policies", tightest.key())));
  }

  /** What changes faster than its feed comes is not seen in time, however good it is. */
  static Outcome pace(Subject s) {
    CriterionCode code = CriterionCode.FRESH_PACE;
    Feed feed = s.speaker();
    if (feed == null) {
      return notAsked(code, s, "nothing is told of it by a feed that is known");
    }
    Duration rpo = s.demand().rpo();
    Duration deadline = s.policies().stream()
        .flatMap(p -> p.copyTo().stream())
        .map(Policy.CopyTarget::deadline)
        .min(Comparator.naturalOrder())
        .orElse(null);
    boolean byDeadline = deadline != null && deadline.compareTo(rpo) < 0;
    Duration smallest = byDeadline ? deadline : rpo;
    String asked = byDeadline ? "copy deadline " : "RPO ";
    if (feed.expectedEvery() == null) {
      return outcome(
          code,
          s,
          OutcomeState.NOT_ENOUGH_DATA,
          null,
          Measure.of(smallest),
          "nobody has said how often the feed " + feed.key() + " comes; to show that "
              + Wording.duration(smallest) + " are kept it has to come at least as often",
          "rhythm of feed " + feed.key() + " is not known; " + asked + Wording.duration(smallest),
          List.of(new FactRef("feeds", feed.key())));
    }
    boolean met = feed.expectedEvery().compareTo(smallest) <= 0;
    return outcome(
        code,
        s,
        metIf(met),
        Measure.of(feed.expectedEvery()),
        Measure.of(smallest),
        "a feed every " + Wording.duration(feed.expectedEvery()) + (met ? " can" : " can't")
            + " show that " + Wording.duration(smallest) + " are kept"
            + (byDeadline ? ", the deadline of a copy" : ""),
        "rhythm of feed " + feed.key() + " " + Wording.duration(feed.expectedEvery()) + " ≤ "
            + asked + Wording.duration(smallest),
        List.of(new FactRef("feeds", feed.key())));
  }

  /** One backup that did not succeed. */
  private record Failure(String cause, FactRef fact) {}

  /**
   * The newest backups that did not succeed, in a row.
   *
   * @param any whether any backup has ended
   */
  private record Row(boolean any, List<Failure> failed) {}

  static Outcome lastOutcomes(Subject s) {
    CriterionCode code = CriterionCode.FRESH_LAST_OUTCOMES;
    Long allowed = s.demand().value(Parameter.FAILURES_IN_A_ROW);
    if (allowed == null) {
      return notDemanded(code, s);
    }
    Row jobs = jobs(s);
    Row row = jobs.any() ? jobs : points(s);
    if (!row.any()) {
      return unknown(code, s, "no backup of it has ended yet", "ended backups = 0");
    }
    List<Failure> failed = row.failed();
    boolean met = failed.size() <= allowed;
    return outcome(
        code,
        s,
        metIf(met),
        Measure.count(failed.size()),
        Measure.count(allowed),
        failed.isEmpty()
            ? "the last backup succeeded"
            : (failed.size() == 1
                    ? "the last backup did not succeed"
                    : "the last " + failed.size() + " backups did not succeed")
                + causes(failed),
        "backups in a row that did not succeed = " + failed.size() + " ≤ " + allowed,
        failed.stream().map(Failure::fact).limit(5).toList());
  }

  private static String causes(List<Failure> failed) {
    String first = failed.get(0).cause();
    boolean same = failed.stream().allMatch(r -> r.cause().equals(first));
    return failed.size() > 1 && same ? ", each time: " + first : ", the newest: " + first;
  }

  private static Row jobs(Subject s) {
    List<Failure> failed = new ArrayList<>();
    List<Job> jobs = s.estate().jobsOf(s.protector().key());
    for (int i = jobs.size() - 1; i >= 0; i--) {
      Job job = jobs.get(i);
      if (job.type() != Job.Type.BACKUP
          || job.outcome() == Job.Result.RUNNING
          || job.outcome() == Job.Result.CANCELLED) {
        continue;
      }
      if (job.outcome() != Job.Result.FAILED) {
        return new Row(true, failed);
      }
      failed.add(new Failure(
          job.message() == null ? "no message" : job.message(), new FactRef("jobs", job.key())));
    }
    return new Row(!failed.isEmpty(), failed);
  }

  /** Where no jobs are known the points speak for them. */
  private static Row points(Subject s) {
    List<Failure> failed = new ArrayList<>();
    PointSet set = s.set();
    for (int row = set.size() - 1; row >= 0; row--) {
      boolean didFail = set.outcome(row) == PointOutcome.FAILED;
      if (didFail) {
        failed.add(new Failure(
            "its outcome is " + set.outcome(row).code(), new FactRef("points", set.key(row))));
      } else if (set.available(row) != PointSet.NONE) {
        return new Row(true, failed);
      }
    }
    return new Row(!failed.isEmpty(), failed);
  }
}
