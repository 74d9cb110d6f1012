package hardproof.core.insights;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import hardproof.core.Given;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Job;
import hardproof.core.estate.Selector;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class InsightsTest {
  private static final Instant FROM = NOW.minus(Duration.ofDays(10));

  private static Insights insights(Given g, Stretch... stretches) {
    return Insights.of(g.at(NOW), Standard.shipped(), FROM, List.of(stretches), key -> true);
  }

  /** One point in ten days: within the 24 h objective for 24 h minus the half hour it took. */
  @Test
  void attainmentIsTheShareOfThePeriod() {
    Given g = Given.estate().point("a", 5 * 24);
    TierAttainment tier3 = insights(g).attainment().get(0);
    assertThat(tier3.tier()).isEqualTo(3);
    assertThat(tier3.mean()).isEqualTo(23.5 / 240, within(1e-9));
    assertThat(tier3.worstName()).isEqualTo("R");
    assertThat(tier3.kept()).isZero();
  }

  /** Parts of twenty hours: none before the point, all of one, then ever less than the objective. */
  @Test
  void theCourseOfAttainmentIsItsMeanInEachTwelfth() {
    Given g = Given.estate().point("a", 5 * 24);
    List<Double> course = insights(g).attainment().get(0).course();
    assertThat(course).hasSize(12);
    assertThat(course.subList(0, 6)).containsOnly(0.0);
    assertThat(course.get(6)).isEqualTo(19.5 / 20, within(1e-9));
    assertThat(course.get(7)).isEqualTo(4.0 / 20, within(1e-9));
    assertThat(course.subList(8, 12)).containsOnly(0.0);
    assertThat(course.stream().mapToDouble(d -> d).average().orElseThrow())
        .as("equal parts: their mean is that of the whole")
        .isEqualTo(insights(g).attainment().get(0).mean(), within(1e-9));
  }

  @Test
  void onlyWhatIsAskedAboutIsLookedAt() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, false, 1);
    g.point("b", "r", Form.FULL, null, 30, PointOutcome.PARTIAL);
    Insights none =
        Insights.of(g.at(NOW), Standard.shipped(), FROM, List.of(), key -> key.equals("another"));
    assertThat(none.attainment()).isEmpty();
    assertThat(none.failures()).isEmpty();
    assertThat(none.trend()).allSatisfy(t -> assertThat(t.points()).isZero());
  }

  @Test
  void whatIsLeftOutIsNotCounted() {
    Given g = Given.estate().point("a", 5);
    g.exceptions.add(new AcceptedException(
        "x", Selector.EVERYTHING, null, "agreed", "ana", "bo", null, null, null));
    assertThat(insights(g).attainment()).isEmpty();
  }

  /** Restored is demanded every 180 days. */
  @Test
  void proofsAreGainedAndLapse() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 185);
    assertThat(insights(g).gained()).isEmpty();
    assertThat(insights(g).lapsed())
        .extracting(ProofChange::at)
        .containsExactly(NOW.minus(Duration.ofDays(5)));
    g.drill("a", Method.FULL_RESTORE, true, 2);
    assertThat(insights(g).gained()).hasSize(1);
    assertThat(insights(g).lapsed()).as("it lapsed three days before").hasSize(1);
    Given renewed = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 185);
    renewed.drill("a", Method.FULL_RESTORE, true, 6);
    assertThat(insights(renewed).gained()).as("it was proven still").isEmpty();
    assertThat(insights(renewed).lapsed()).isEmpty();
    Given weaker = Given.estate().point("a", 5).drill("a", Method.READ_THROUGH, true, 1);
    assertThat(insights(weaker).gained()).as("intact is not restored").isEmpty();
  }

  @Test
  void failuresAreCountedByCause() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, false, 1);
    for (int hour = 1; hour <= 3; hour++) {
      Instant at = NOW.minus(Duration.ofHours(hour));
      g.jobs.add(new Job(
          "j" + hour,
          Job.Type.BACKUP,
          "r" + hour % 2,
          "p",
          null,
          at,
          at,
          Job.Result.FAILED,
          null,
          "quota exceeded"));
    }
    g.jobs.add(new Job(
        "old",
        Job.Type.BACKUP,
        "r",
        "p",
        null,
        FROM,
        FROM,
        Job.Result.FAILED,
        null,
        "quota exceeded"));
    g.point("b", "r", Form.FULL, null, 30, PointOutcome.PARTIAL);
    assertThat(insights(g).failures())
        .extracting(f -> f.kind() + " " + f.cause() + " " + f.times() + " " + f.resources())
        .containsExactly(
            "backup quota exceeded 3 2",
            "drill checksum differs 1 1",
            "point its outcome is partial 1 1");
  }

  @Test
  void gapsAndTheTimeToFixThem() {
    Insights i = insights(
        Given.estate(),
        new Stretch("a", 1, FROM.minusSeconds(1), null),
        new Stretch("b", 1, FROM, FROM.plus(Duration.ofDays(2))),
        new Stretch("c", 1, FROM.plusSeconds(1), FROM.plusSeconds(1).plus(Duration.ofDays(4))));
    assertThat(i.open().atStart()).isEqualTo(2);
    assertThat(i.open().opened()).isEqualTo(1);
    assertThat(i.open().closed()).isEqualTo(2);
    assertThat(i.open().atEnd()).isEqualTo(1);
    assertThat(i.open().meanToFix()).isEqualTo(Duration.ofDays(3));
    assertThat(i.sentences())
        .last()
        .isEqualTo("1 gap opened, 2 closed, and 1 is open now; a gap that"
            + " closed had been open for 3 d on average.");
    assertThat(insights(Given.estate()).open().meanToFix()).isNull();
  }

  @Test
  void theTrendCountsWhatWasThere() {
    Given g = Given.estate().point("a", 5 * 24 + 2).point("b", 5);
    List<TrendPoint> trend = insights(g).trend();
    assertThat(trend.get(0).points()).isZero();
    assertThat(trend.get(0).medianReach()).isNull();
    assertThat(trend.get(8).points()).isEqualTo(2);
    assertThat(trend.get(8).bytes()).as("two points of 1000 B on two stores").isEqualTo(4000);
    assertThat(trend.get(8).medianReach()).isEqualTo(Duration.ofHours(122));
    assertThat(trend.get(5).points()).isEqualTo(1);
  }
}
