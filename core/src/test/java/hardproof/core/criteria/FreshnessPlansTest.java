package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.estate.Job;
import hardproof.core.feeds.FactKinds;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;

/** The Freshness criteria about plans and jobs. Tier 3: RPO 24 h. */
class FreshnessPlansTest {
  /** The policy of the estate; keeps nothing, runs never, but for what these fields say. */
  private static Given withPolicy(String... fields) {
    return Given.estate()
        .thePolicy("name", "Nightly", "schedule", "", "keep_last", "")
        .thePolicy(fields);
  }

  private static void slow(Given g, String key, double hoursAgo, Duration run) {
    g.point(key, hoursAgo);
    Instant data = g.points.get(g.points.size() - 1).dataTime();
    g.thePoint(key, "started", data.toString(), "available", data.plus(run).toString());
  }

  /** The worked example of the manual: a daily job that runs 11 h can never meet 24 h. */
  @Test
  void aDailyJobThatRunsElevenHoursCanNeverMeetADay() {
    Given g = withPolicy("schedule", "24h");
    slow(g, "a", 36, Duration.ofHours(11));
    slow(g, "b", 12, Duration.ofHours(11));
    Outcome o = g.outcome(CriterionCode.FRESH_ON_PAPER);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence())
        .isEqualTo("the schedule of Nightly leaves at the longest 24 h between starts and a run"
            + " usually takes 11 h: 35 h, 11 h over the 24 h objective; it can never be met on this"
            + " schedule");
    assertThat(o.measured().words()).isEqualTo("35 h");
  }

  @Test
  void theScheduleIsMetAtExactlyTheObjective() {
    Given g = withPolicy("schedule", "22h");
    slow(g, "a", 12, Duration.ofHours(2));
    assertThat(g.outcome(CriterionCode.FRESH_ON_PAPER).state()).isEqualTo(OutcomeState.MET);
    g.points.clear();
    slow(g, "a", 12, Duration.ofHours(2).plusMillis(1));
    assertThat(g.outcome(CriterionCode.FRESH_ON_PAPER).state()).isEqualTo(OutcomeState.NOT_MET);
  }

  @Test
  void withoutRunsOrSchedulesNothingIsSaid() {
    Given g = withPolicy("schedule", "12h");
    assertThat(g.outcome(CriterionCode.FRESH_ON_PAPER).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    Given over = withPolicy("schedule", "25h");
    assertThat(over.outcome(CriterionCode.FRESH_ON_PAPER).state())
        .as("the gap alone is too long")
        .isEqualTo(OutcomeState.NOT_MET);
    Given none = withPolicy();
    assertThat(none.outcome(CriterionCode.FRESH_ON_PAPER).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    none.policies.clear();
    assertThat(none.outcome(CriterionCode.FRESH_ON_PAPER).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
  }

  /** Common practice, no source: a start window and a deadline that do not fit make jobs fail. */
  @Test
  void aWindowTooShortForTheUsualRunIsFound() {
    Given g = withPolicy("schedule", "24h", "start_window", "4h", "complete_within", "6h");
    slow(g, "a", 12, Duration.ofHours(3));
    assertThat(g.outcome(CriterionCode.FRESH_WINDOW).sentence())
        .isEqualTo("a job of Nightly may begin 4 h late and usually takes 3 h: done after 7 h, 1 h"
            + " after it has to be: such jobs must fail");
    assertThat(g.outcome(CriterionCode.FRESH_WINDOW).state()).isEqualTo(OutcomeState.NOT_MET);
    g.points.clear();
    slow(g, "a", 12, Duration.ofHours(2));
    assertThat(g.outcome(CriterionCode.FRESH_WINDOW).state())
        .as("exactly fitting")
        .isEqualTo(OutcomeState.MET);
    g.points.clear();
    assertThat(g.outcome(CriterionCode.FRESH_WINDOW).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }

  private static Job job(String key, double hoursAgo, Job.Result result, String message) {
    Instant started = NOW.minusSeconds((long) (hoursAgo * 3600));
    return new Job(
        key,
        Job.Type.BACKUP,
        "r",
        "p",
        "near",
        started,
        started.plusSeconds(60),
        result,
        null,
        message);
  }

  @Test
  void failuresInARowAreCountedFromTheNewest() {
    Given g = Given.estate().point("a", 5);
    g.jobs.add(job("1", 60, Job.Result.FAILED, "disk full"));
    g.jobs.add(job("2", 50, Job.Result.SUCCEEDED, null));
    g.jobs.add(job("3", 26, Job.Result.FAILED, "quota exceeded"));
    assertThat(g.outcome(CriterionCode.FRESH_LAST_OUTCOMES).state())
        .as("one in a row is allowed in tier 3")
        .isEqualTo(OutcomeState.MET);
    g.jobs.add(job("4", 2, Job.Result.FAILED, "quota exceeded"));
    g.jobs.add(job("5", 1, Job.Result.RUNNING, null));
    Outcome o = g.outcome(CriterionCode.FRESH_LAST_OUTCOMES);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence())
        .isEqualTo("the last 2 backups did not succeed, each time: quota exceeded");
  }

  @Test
  void withoutJobsThePointsSpeak() {
    Given g = Given.estate().point("a", 50);
    g.point("b", "r", Form.FULL, null, 26, PointOutcome.FAILED);
    g.point("c", "r", Form.FULL, null, 2, PointOutcome.FAILED);
    assertThat(g.outcome(CriterionCode.FRESH_LAST_OUTCOMES).sentence())
        .isEqualTo("the last 2 backups did not succeed, each time: its outcome is failed");
    assertThat(Given.estate().outcome(CriterionCode.FRESH_LAST_OUTCOMES).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }

  /** One run in twenty that takes longer is said where it goes over the objective, and only there. */
  @Test
  void slowRunsAreSaidWhereTheyGoOver() {
    Given g = withPolicy("schedule", "22h");
    for (int i = 1; i <= 19; i++) {
      slow(g, "p" + i, 24.0 * i, Duration.ofHours(1));
    }
    slow(g, "slow", 24.0 * 20, Duration.ofHours(2));
    slow(g, "slower", 24.0 * 21, Duration.ofHours(2));
    assertThat(g.outcome(CriterionCode.FRESH_ON_PAPER).sentence())
        .as("exactly the objective")
        .doesNotContain("1 run in 20");
    slow(g, "slowest", 24.0 * 22, Duration.ofHours(3));
    slow(g, "slowest2", 24.0 * 23, Duration.ofHours(3));
    assertThat(g.outcome(CriterionCode.FRESH_ON_PAPER).state()).isEqualTo(OutcomeState.MET);
    assertThat(g.outcome(CriterionCode.FRESH_ON_PAPER).sentence())
        .endsWith("; 1 run in 20 takes 3 h, which is over it");
  }

  /** Of several policies the tightest window decides; without a run nothing is said. */
  @Test
  void theTightestWindowDecides() {
    Given g = withPolicy("schedule", "24h", "start_window", "1h", "complete_within", "12h");
    g.policies.add(Given.policy("q", Duration.ofHours(24)));
    g.policies.set(
        1,
        Fields.with(
            FactKinds.POLICIES,
            g.policies.get(1),
            "name",
            "Tight",
            "start_window",
            "4h",
            "complete_within",
            "6h"));
    assertThat(g.outcome(CriterionCode.FRESH_WINDOW).sentence())
        .isEqualTo("how long a run takes is not known yet");
    slow(g, "a", 12, Duration.ofHours(3));
    assertThat(g.outcome(CriterionCode.FRESH_WINDOW).sentence()).startsWith("a job of Tight");
  }

  /** Exactly the objective at the worst moment is within it. */
  @Test
  void theWorstMomentMayBeExactlyTheObjective() {
    Given g = Given.estate().theResource("first_seen", Fields.ago("24h"));
    g.point("a", 24.5);
    g.thePoint(
        "a",
        "data_time",
        NOW.minus(Duration.ofHours(24)).toString(),
        "available",
        NOW.minus(Duration.ofHours(24)).toString());
    assertThat(g.outcome(CriterionCode.FRESH_EXPOSURE_WORST).state()).isEqualTo(OutcomeState.MET);
    assertThat(g.outcome(CriterionCode.FRESH_EXPOSURE_WORST).measured().words()).isEqualTo("24 h");
    assertThat(g.outcome(CriterionCode.FRESH_ATTAINMENT).measured().words()).isEqualTo("100.00 %");
  }
}
