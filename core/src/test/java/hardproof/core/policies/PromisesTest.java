package hardproof.core.policies;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Policy.CopyTarget;
import hardproof.core.estate.Selector;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.retention.Retention;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.schedule.Schedule;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Points of the small estate take half an hour each. */
class PromisesTest {
  private static Policy policy(
      Schedule schedule, Duration startWindow, Duration within, Retention kept) {
    return new Policy(
        "p",
        "Nightly",
        Selector.EVERYTHING,
        schedule,
        new Policy.JobWindow(startWindow, within),
        kept,
        null,
        null,
        null,
        List.of(new CopyTarget("far", Duration.ofHours(12))),
        HoursOfDay.parse("22:00-06:00"),
        List.of());
  }

  private static Promises promises(Given g, Policy policy) {
    g.policies.set(0, policy);
    return Promises.of(policy, g.at(NOW));
  }

  private static final Schedule DAILY = Schedule.every(Duration.ofHours(24));

  @Test
  void whatCanBeLostAtBestIsTheGapAndTheUsualRun() {
    Promises p = promises(Given.estate().point("a", 5), policy(DAILY, null, null, Retention.NONE));
    assertThat(p.bestLoss()).isEqualTo(Duration.ofMinutes(24 * 60 + 30));
    assertThat(p.sentences())
        .containsExactly(
            "at best a loss of 24 h 30 m: 24 h between starts at the longest and a usual run of 30 m"
                + " (1 in 20 takes 30 m)",
            "how long points are kept is not stated",
            "a copy on FAR within 12 h",
            "copies go on from 22:00 to 06:00 (UTC)");
    assertThat(p.reach()).isNull();
  }

  @Test
  void withoutAScheduleOrRunsItSaysWhatIsMissing() {
    Promises none = promises(Given.estate(), policy(null, null, null, Retention.NONE));
    assertThat(none.sentences().get(0))
        .isEqualTo("no schedule is stated: it promises no next point");
    assertThat(none.bestLoss()).isNull();
    assertThat(promises(Given.estate(), policy(DAILY, null, null, Retention.NONE))
            .sentences()
            .get(0))
        .isEqualTo("at best a point every 24 h; how long its runs take is not known yet");
  }

  @Test
  void aWindowFitsAtExactlyItsLength() {
    Duration start = Duration.ofHours(2);
    Given g = Given.estate().point("a", 5);
    assertThat(promises(g, policy(DAILY, start, Duration.ofMinutes(150), Retention.NONE))
            .windowTooShort())
        .isFalse();
    Promises tooShort = promises(g, policy(DAILY, start, Duration.ofMinutes(149), Retention.NONE));
    assertThat(tooShort.windowTooShort()).isTrue();
    assertThat(tooShort.sentences().get(1))
        .isEqualTo("its window is too short: a job that begins 2 h late is done after 2 h 30 m, and"
            + " must be within 2 h 29 m");
  }

  @Test
  void theLongTailCountsItsOwnSlotsOnly() {
    Retention kept = new Retention(null, Duration.ofDays(30), 2, 1, null);
    Given g = Given.estate();
    for (int day = 1; day <= 40; day++) {
      g.point("d" + day, "r", Form.FULL, null, day * 24, PointOutcome.COMPLETE);
    }
    Promises p = promises(g, policy(DAILY, null, null, kept));
    assertThat(p.reach()).isEqualTo(Duration.ofDays(30));
    assertThat(p.sentences().get(2))
        .isEqualTo("its long tail needs 3 separate fulls where storage shares no blocks; of the"
            + " points there are, 2 serve every slot that can be served");
  }

  @Test
  void theFirstPointIsForetoldWithItsCopy() {
    Given g = Given.estate().point("a", 5);
    Instant start = NOW.plus(Duration.ofHours(12));
    Schedule once = Schedule.of(
        "at ten", null, after -> after.isBefore(start) ? Optional.of(start) : Optional.empty());
    Policy policy = policy(once, null, null, Retention.NONE);
    g.policies.set(0, policy);
    assertThat(Promises.firstPoint(policy, g.resources.get(0), g.at(NOW)))
        .isEqualTo(
            "R: the first point by 24 Nov 22:30 (start 24 Nov 22:00 and a usual run of 30 m),"
                + " its copy on FAR by 25 Nov 10:30");
    Schedule over = Schedule.of("over", null, after -> Optional.empty());
    assertThat(Promises.firstPoint(
            policy(over, null, null, Retention.NONE), g.resources.get(0), g.at(NOW)))
        .isEqualTo("R: the schedule of Nightly starts no more");
    assertThat(Promises.firstPoint(
            policy(null, null, null, Retention.NONE), g.resources.get(0), g.at(NOW)))
        .isEqualTo("R: Nightly states no schedule, so no next point is promised");
  }

  @Test
  void whatGoesNextIsOldestFirstAndOnlyWhatIsUsable() {
    Given g = Given.estate().point("old", 48).point("new", 24);
    g.point("failed", "r", Form.FULL, null, 12, PointOutcome.FAILED);
    Policy policy =
        policy(DAILY, null, null, new Retention(null, Duration.ofDays(3), null, null, null));
    g.policies.set(0, policy);
    NextToGo next = NextToGo.of(g.resources.get(0), g.at(NOW));
    assertThat(next.policy()).isEqualTo(policy);
    assertThat(next.leaving()).extracting(l -> l.point().key()).containsExactly("old", "new");
    assertThat(next.leaving())
        .extracting(NextToGo.Leaving::leaves)
        .containsExactly(NOW.plus(Duration.ofDays(1)), NOW.plus(Duration.ofDays(2)));
    assertThat(next.reachOn(NOW)).isEqualTo(Duration.ofDays(2));
    assertThat(next.reachOn(NOW.plus(Duration.ofDays(1)))).isEqualTo(Duration.ofDays(2));
    assertThat(next.reachOn(NOW.plus(Duration.ofDays(2)))).isNull();
  }

  @Test
  void withoutARetentionNothingSaysWhenAPointGoes() {
    Given g = Given.estate().point("a", 5);
    g.policies.clear();
    NextToGo next = NextToGo.of(g.resources.get(0), g.at(NOW));
    assertThat(next.policy()).isNull();
    assertThat(next.leaving()).extracting(NextToGo.Leaving::leaves).containsOnlyNulls();
    assertThat(next.reachOn(NOW.plus(Duration.ofDays(500))))
        .isEqualTo(Duration.ofHours(500 * 24 + 5));
  }
}
