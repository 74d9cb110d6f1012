package hardproof.core.criteria;

import hardproof.core.estate.Job;
import hardproof.core.facts.PointSet;
import hardproof.core.points.PointOutcome;
import java.util.ArrayList;
import java.util.List;

/** Did the last backups succeed? */
final class FreshLastOutcomes extends ShippedCriterion {
  FreshLastOutcomes() {
    super(
        Group.FRESHNESS,
        "Last backups succeeded",
        "No more backups in a row have failed than the tier allows.",
        List.of("NIST CP-9", "CSF PR.DS-11"),
        Parameter.FAILURES_IN_A_ROW);
  }

  @Override
  Judgement judge(Subject s) {
    Long allowed = s.demand().value(Parameter.FAILURES_IN_A_ROW);
    if (allowed == null) {
      return Judgement.notDemanded();
    }
    Row jobs = jobs(s);
    Row row = jobs.any() ? jobs : points(s);
    if (!row.any()) {
      return Judgement.unknown("no backup of it has ended yet", "ended backups = 0");
    }
    return judged(allowed, row);
  }

  private static Judgement judged(Long allowed, Row row) {
    List<Failure> failed = row.failed();
    boolean met = failed.size() <= allowed;
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.count(failed.size()),
        Measure.count(allowed),
        failed.isEmpty()
            ? "the last backup succeeded"
            : (failed.size() == 1
                    ? "the last backup did not succeed"
                    : "the last " + failed.size() + " backups did not succeed")
                + causes(failed),
        "backups in a row that did not succeed = " + failed.size() + atMost(met) + allowed,
        failed.stream().map(Failure::fact).limit(5).toList());
  }

  /** One backup that did not succeed. */
  private record Failure(String cause, FactRef fact) {}

  /**
   * The newest backups that did not succeed, in a row.
   *
   * @param any whether any backup has ended
   */
  private record Row(boolean any, List<Failure> failed) {}

  private static String causes(List<Failure> failed) {
    String first = failed.get(0).cause();
    boolean same = failed.stream().allMatch(r -> r.cause().equals(first));
    if (failed.size() == 1) {
      return ": " + first;
    }
    return (same ? ", each time: " : ", the newest: ") + first;
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
