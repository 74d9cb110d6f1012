package hardproof.core.reports;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import hardproof.core.estate.Job;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class JobsTableTest {
  private static final Instant FROM = NOW.minus(Duration.ofDays(1));

  private static Job job(String key, Job.Type type, String resource, Instant started) {
    return new Job(
        key,
        type,
        resource,
        "p",
        "near",
        started,
        started == null ? null : started.plusMillis(90_500),
        Job.Result.WARNING,
        7L,
        "=1+1");
  }

  private static ReportTable table(Given g, Set<String> resources, boolean everything) {
    return JobsTable.of(g.at(NOW), resources, everything, FROM, NOW);
  }

  private static List<Object> keys(ReportTable table) {
    return table.rows().stream().map(r -> r.get(1)).toList();
  }

  /** Just before, at, just under and at the end: each job is in one of two periods that follow each other. */
  @Test
  void aJobIsInThePeriodThatItBeganIn() {
    Given g = Given.estate();
    g.jobs.add(job("before", Job.Type.BACKUP, "r", FROM.minusMillis(1)));
    g.jobs.add(job("first", Job.Type.BACKUP, "r", FROM));
    g.jobs.add(job("last", Job.Type.COPY, "r", NOW.minusMillis(1)));
    g.jobs.add(job("after", Job.Type.RESTORE, "r", NOW));
    assertThat(keys(table(g, Set.of("r"), true))).containsExactly("first", "last");
    assertThat(keys(JobsTable.of(g.at(NOW), Set.of("r"), true, NOW, NOW.plusSeconds(1))))
        .containsExactly("after");
  }

  @Test
  void aRowSaysEverythingAndIsHarmlessInASpreadsheet() {
    Given g = Given.estate();
    g.jobs.add(job("j", Job.Type.COPY, "r", FROM));
    assertThat(table(g, Set.of("r"), true).csv())
        .isEqualTo(
            "type,job,told_by,resource,name,workload,store,started,ended,took_s,outcome,bytes,policy,message\r\n"
                + "copy,j,a feed,r,R,Workload w,near,2026-11-23T10:00:00Z,2026-11-23T10:01:30.500Z,90.5,warning,7,p,'=1+1\r\n");
  }

  /** One of a resource that nobody told of, one that runs, and one of no resource. */
  @Test
  void whatIsNotKnownIsEmpty() {
    Given g = Given.estate();
    g.jobs.add(new Job("runs", Job.Type.BACKUP, "r", null, null, FROM, null, null, null, null));
    g.jobs.add(job("none", Job.Type.BACKUP, null, FROM.plusSeconds(1)));
    g.jobs.add(job("gone", Job.Type.BACKUP, "gone", FROM.plusSeconds(2)));
    assertThat(keys(table(g, Set.of("r"), true))).containsExactly("runs", "none");
    assertThat(keys(table(g, Set.of("r"), false))).containsExactly("runs");
    ReportTable table = table(g, Set.of("gone"), false);
    assertThat(table.rows().get(0).get(4)).isNull();
    assertThat(table.csv()).contains("backup,gone,a feed,gone,,,near,");
  }

  @Test
  void jobsWithoutABeginAreCountedInWords() {
    Given g = Given.estate();
    g.jobs.add(job("whenever", Job.Type.BACKUP, "r", null));
    ReportTable table = table(g, Set.of("r"), true);
    assertThat(table.rows()).isEmpty();
    assertThat(table.title()).endsWith("of 1 more nobody told when they began");
  }

  /** A drill that restored is a restore; one that only read is none. */
  @Test
  void drillsThatRestoredAreRestores() {
    Given g = Given.estate()
        .point("a", 5)
        .drill("a", Method.FULL_RESTORE, true, 0.5)
        .drill("a", Method.FULL_RESTORE, false, 0.4)
        .drill("a", Method.READ_THROUGH, true, 0.3);
    ReportTable table = table(g, Set.of("r"), true);
    assertThat(keys(table)).containsExactly("run0", "run1");
    assertThat(table.rows()).allSatisfy(r -> assertThat(r.get(0)).isEqualTo("restore"));
    assertThat(table.rows().get(0).get(10)).isEqualTo("succeeded");
    assertThat(table.rows().get(1).get(10)).isEqualTo("failed");
    assertThat(table.rows().get(0).get(2)).isEqualTo("a drill");
  }
}
