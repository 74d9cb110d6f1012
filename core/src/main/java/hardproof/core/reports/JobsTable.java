package hardproof.core.reports;

import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Job;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** The jobs that began in a period: those that feeds tell of, and the drills of this installation that restored. */
public final class JobsTable {
  private static final int STARTED = 7;

  private JobsTable() {}

  /**
   * Each job is in the one period that it began in. One whose begin nobody told is in none, and is counted in words.
   *
   * @param resources keys of those that are asked about
   * @param everything whether jobs of no resource belong to it
   * @param until not part of the period any more
   */
  public static ReportTable of(
      Estate estate, Set<String> resources, boolean everything, Instant from, Instant until) {
    List<List<Object>> rows = new ArrayList<>();
    int without = 0;
    for (Job job : estate.facts().jobs()) {
      if (job.resource() == null ? !everything : !resources.contains(job.resource())) {
        continue;
      }
      if (job.started() == null) {
        without++;
      } else if (within(job.started(), from, until)) {
        rows.add(row(estate, job));
      }
    }
    for (DrillFact drill : estate.facts().drills()) {
      if (drill.method().needsSandbox()
          && resources.contains(drill.resource())
          && within(drill.started(), from, until)) {
        rows.add(row(estate, drill));
      }
    }
    rows.sort(Comparator.comparing((List<Object> r) -> (Instant) r.get(STARTED))
        .thenComparing(r -> (String) r.get(1)));
    return new ReportTable(
        "jobs",
        "Jobs that began in this time"
            + (without == 0 ? "" : "; of " + without + " more nobody told when they began"),
        List.of(
            "type",
            "job",
            "told_by",
            "resource",
            "name",
            "workload",
            "store",
            "started",
            "ended",
            "took_s",
            "outcome",
            "bytes",
            "policy",
            "message"),
        rows,
        "No job began in this time, or no feed tells of jobs.");
  }

  private static boolean within(Instant started, Instant from, Instant until) {
    return !started.isBefore(from) && started.isBefore(until);
  }

  private static List<Object> row(Estate estate, Job job) {
    Resource resource = job.resource() == null ? null : estate.resource(job.resource());
    return ReportTables.row(
        job.type().code(),
        job.key(),
        "a feed",
        job.resource(),
        resource == null ? null : resource.name(),
        ReportTables.workloadName(estate, resource),
        job.store(),
        job.started(),
        job.ended(),
        seconds(job.took()),
        job.outcome() == null ? null : job.outcome().code(),
        job.bytes(),
        job.policy(),
        job.message());
  }

  private static List<Object> row(Estate estate, DrillFact drill) {
    Resource resource = estate.resource(drill.resource());
    return ReportTables.row(
        Job.Type.RESTORE.code(),
        drill.run(),
        "a drill",
        drill.resource(),
        resource == null ? null : resource.name(),
        ReportTables.workloadName(estate, resource),
        drill.store(),
        drill.started(),
        drill.ended(),
        seconds(drill.took()),
        outcome(drill).code(),
        drill.bytes(),
        null,
        drill.sentence());
  }

  /** In the words of jobs: one that says nothing about the data was cut off, whoever did it. */
  private static Job.Result outcome(DrillFact drill) {
    return drill.passed()
        ? Job.Result.SUCCEEDED
        : drill.failed() ? Job.Result.FAILED : Job.Result.CANCELLED;
  }

  private static @Nullable BigDecimal seconds(@Nullable Duration took) {
    return took == null
        ? null
        : new BigDecimal(
            BigDecimal.valueOf(took.toMillis(), 3).stripTrailingZeros().toPlainString());
  }
}
