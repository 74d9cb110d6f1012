package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.Job;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.retention.Retention;
import hardproof.core.schedule.Schedule;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** The Freshness criteria about plans, and the History group. Tier 3: RPO 24 h, reach 14 d. */
class HistoryAndScheduleTest {
  private static Policy policy(
      Duration every, Duration startWindow, Duration completeWithin, Retention retention) {
    return new Policy(
        "p",
        "Nightly",
        Selector.EVERYTHING,
        every == null ? null : Schedule.every(every),
        new Policy.JobWindow(startWindow, completeWithin),
        retention,
        null,
        null,
        null,
        List.of(),
        null,
        List.of());
  }

  private static Given withPolicy(Policy policy) {
    Given g = Given.estate();
    g.policies.set(0, policy);
    return g;
  }

  private static Given slow(Given g, String key, double hoursAgo, Duration run) {
    Instant data = NOW.minusSeconds((long) (hoursAgo * 3600));
    g.points.add(new RecoveryPoint(
        key,
        "r",
        "p",
        Form.FULL,
        null,
        new RecoveryPoint.Times(data, data, data.plus(run)),
        PointOutcome.COMPLETE,
        new RecoveryPoint.Taken(Consistency.FILE, null, null),
        new RecoveryPoint.Content(1000L, true, 0L),
        "feed"));
    return g.copy(key, "near").copy(key, "far");
  }

  /** The worked example of the manual: a daily job that runs 11 h can never meet 24 h. */
  @Test
  void aDailyJobThatRunsElevenHoursCanNeverMeetADay() {
    Given g = withPolicy(policy(Duration.ofHours(24), null, null, Retention.NONE));
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
    Given g = withPolicy(policy(Duration.ofHours(22), null, null, Retention.NONE));
    slow(g, "a", 12, Duration.ofHours(2));
    assertThat(g.outcome(CriterionCode.FRESH_ON_PAPER).state()).isEqualTo(OutcomeState.MET);
    g.points.clear();
    slow(g, "a", 12, Duration.ofHours(2).plusMillis(1));
    assertThat(g.outcome(CriterionCode.FRESH_ON_PAPER).state()).isEqualTo(OutcomeState.NOT_MET);
  }

  @Test
  void withoutRunsOrSchedulesNothingIsSaid() {
    Given g = withPolicy(policy(Duration.ofHours(12), null, null, Retention.NONE));
    assertThat(g.outcome(CriterionCode.FRESH_ON_PAPER).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    Given over = withPolicy(policy(Duration.ofHours(25), null, null, Retention.NONE));
    assertThat(over.outcome(CriterionCode.FRESH_ON_PAPER).state())
        .as("the gap alone is too long")
        .isEqualTo(OutcomeState.NOT_MET);
    Given none = withPolicy(policy(null, null, null, Retention.NONE));
    assertThat(none.outcome(CriterionCode.FRESH_ON_PAPER).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    none.policies.clear();
    assertThat(none.outcome(CriterionCode.FRESH_ON_PAPER).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
  }

  /** Common practice, no source: a start window and a deadline that do not fit make jobs fail. */
  @Test
  void aWindowTooShortForTheUsualRunIsFound() {
    Policy tight =
        policy(Duration.ofHours(24), Duration.ofHours(4), Duration.ofHours(6), Retention.NONE);
    Given g = withPolicy(tight);
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

  private static Given firstSeen(Given g, Instant instant) {
    Resource r = g.resources.get(0);
    g.resources.set(
        0,
        new Resource(
            r.key(),
            r.name(),
            r.kind(),
            new Resource.Links(r.workload(), null, List.of()),
            new Resource.Place(r.site(), r.region(), r.environment()),
            new Resource.Volume(null, null),
            new Resource.Seen(instant, null, null, null),
            new Resource.Credentials(null, null),
            Map.of(),
            List.of(),
            "feed"));
    return g;
  }

  @Test
  void reachIsTheAgeOfTheOldestUsablePoint() {
    Given g = Given.estate().point("old", 14 * 24).point("new", 5);
    assertThat(g.outcome(CriterionCode.HISTORY_REACH).state())
        .as("exactly the reach")
        .isEqualTo(OutcomeState.MET);
    Given short0 = Given.estate().point("old", 14 * 24 - 1).point("new", 5);
    Outcome o = short0.outcome(CriterionCode.HISTORY_REACH);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence())
        .isEqualTo("the oldest usable point is from 10 Nov 11:00: it reaches back 13 d 23 h, 1 h"
            + " short of the 14 d demanded");
    assertThat(firstSeen(short0, NOW.minus(Duration.ofDays(9)))
            .outcome(CriterionCode.HISTORY_REACH)
            .sentence())
        .isEqualTo("not enough history: it was first seen 9 d ago, 14 d of reach are demanded");
    assertThat(short0.outcome(CriterionCode.HISTORY_REACH).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(firstSeen(short0, null).outcome(CriterionCode.HISTORY_REACH).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(Given.estate().outcome(CriterionCode.HISTORY_REACH).state())
        .isEqualTo(OutcomeState.NOT_MET);
  }

  @Test
  void missingSlotsAreNamed() {
    Policy daily = policy(
        Duration.ofHours(24),
        null,
        null,
        new Retention(null, Duration.ofDays(4), null, null, null));
    Given g = withPolicy(daily).point("a", 5).point("b", 29).point("c", 77);
    Outcome o = g.outcome(CriterionCode.HISTORY_SLOTS);
    assertThat(o.sentence())
        .isEqualTo("1 of the 4 slots that Nightly promises hold no usable point: 2026-11-22");
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    g.point("d", 53);
    assertThat(g.outcome(CriterionCode.HISTORY_SLOTS).state()).isEqualTo(OutcomeState.MET);
    assertThat(firstSeen(g, NOW.minus(Duration.ofDays(2)))
            .outcome(CriterionCode.HISTORY_SLOTS)
            .state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(Given.estate().point("a", 5).outcome(CriterionCode.HISTORY_SLOTS).state())
        .as("the last 14 names no day")
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
  }

  /** A schedule changed to 12 h halves the reach of the same 14 points. */
  @Test
  void reachOnPaperHalvesWithTheInterval() {
    Retention last14 = new Retention(14, null, null, null, null);
    Given g = withPolicy(policy(Duration.ofHours(24), null, null, last14)).point("a", 5);
    assertThat(g.outcome(CriterionCode.HISTORY_ON_PAPER).state()).isEqualTo(OutcomeState.MET);
    g.policies.set(0, policy(Duration.ofHours(12), null, null, last14));
    Outcome o = g.outcome(CriterionCode.HISTORY_ON_PAPER);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence())
        .isEqualTo("Nightly keeps the last 14 with 12 h between starts, which reaches 7 d back, 7 d"
            + " short of the 14 d demanded");
    g.policies.set(0, policy(Duration.ofHours(12), null, null, Retention.NONE));
    assertThat(g.outcome(CriterionCode.HISTORY_ON_PAPER).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }

  private static void copy(
      Given g, String store, CopyState state, Instant expires, Instant recordedAt) {
    g.copies.add(new Copy(
        "a",
        store,
        NOW.minus(Duration.ofHours(4)),
        state,
        null,
        expires,
        new Copy.Artifact(null, null, null, null),
        new Copy.ReadBack(null, null),
        recordedAt,
        "feed"));
  }

  @Test
  void everyPointLivesLongEnough() {
    Given g = Given.estate().point("a", "r", Form.FULL, null, 5, PointOutcome.COMPLETE);
    Instant available = NOW.minus(Duration.ofMinutes(270));
    copy(g, "near", CopyState.PRESENT, available.plus(Duration.ofDays(2)), NOW);
    copy(g, "far", CopyState.PRESENT, available.plus(Duration.ofDays(7)), NOW);
    assertThat(g.outcome(CriterionCode.HISTORY_LIFETIME).state())
        .as("one copy for exactly the lifetime is enough")
        .isEqualTo(OutcomeState.MET);
    g.copies.remove(1);
    assertThat(g.outcome(CriterionCode.HISTORY_LIFETIME).sentence())
        .isEqualTo("1 of 1 point of the last 30 d are kept for less than 7 d, a for 2 d only");
    g.copies.clear();
    assertThat(g.outcome(CriterionCode.HISTORY_LIFETIME).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }

  @Test
  void aCopyThatVanishedBeforeItsTimeIsFound() {
    Given g = Given.estate().point("a", 5);
    assertThat(g.outcome(CriterionCode.HISTORY_GONE_EARLY).state()).isEqualTo(OutcomeState.MET);
    copy(g, "third", CopyState.DELETED, NOW, NOW);
    assertThat(g.outcome(CriterionCode.HISTORY_GONE_EARLY).state())
        .as("gone at its expiry is not early")
        .isEqualTo(OutcomeState.MET);
    copy(g, "fourth", CopyState.MISSING, NOW.plus(Duration.ofDays(3)), NOW);
    Outcome o = g.outcome(CriterionCode.HISTORY_GONE_EARLY);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence())
        .isEqualTo("1 copy vanished early: the one of a on fourth was found missing at 24 Nov"
            + " 10:00, 3 d before it expires");
    assertThat(Given.estate().outcome(CriterionCode.HISTORY_GONE_EARLY).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }
}
