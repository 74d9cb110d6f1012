package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.feeds.FactKinds;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What of a resource is worked out for all its criteria. Invented data. */
class SubjectTest {
  private static Subject of(Given g) {
    return new Subject(g.at(NOW), Standard.shipped(), g.resources.get(0));
  }

  private static Given firstSeen(Given g, String when) {
    g.resources.set(0, Fields.with(FactKinds.RESOURCES, g.resources.get(0), "first_seen", when));
    return g;
  }

  private static RecoveryPoint started(RecoveryPoint point, int minutesBefore) {
    Instant started = point.available().minus(Duration.ofMinutes(minutesBefore));
    return Fields.with(FactKinds.POINTS, point, "started", started.toString());
  }

  private static long countedInAWeek(Given g) {
    Subject s = of(g);
    return s.curve()
        .over(NOW.minus(Duration.ofDays(7)).toEpochMilli(), NOW.toEpochMilli(), 1)
        .counted();
  }

  @Test
  void exposureCountsFromWhenItWasFirstSeen() {
    Given g = firstSeen(Given.estate().point("a", 100), NOW.minusSeconds(3600).toString());
    assertThat(countedInAWeek(g)).isEqualTo(3_600_000);
  }

  /** The first that was available, whichever row it is in; one that never was does not count. */
  @Test
  void whereThatIsNotKnownItCountsFromItsFirstPoint() {
    Given g = firstSeen(Given.estate(), "");
    g.points.add(Fields.with(
        FactKinds.POINTS,
        Given.estate().point("waits", 120).points.get(0),
        "available",
        "",
        "outcome",
        "failed"));
    g.point("late", 90).point("soon", 50);
    g.points.set(
        1,
        Fields.with(
            FactKinds.POINTS,
            g.points.get(1),
            "available",
            NOW.minusSeconds(7200).toString()));
    Instant first = g.points.get(2).available();
    assertThat(countedInAWeek(g)).isEqualTo(Duration.between(first, NOW).toMillis());
  }

  @Test
  void withoutAnyPointNothingIsCountedYet() {
    assertThat(countedInAWeek(firstSeen(Given.estate(), ""))).isZero();
  }

  /** The newest thirty that say how long they took; one that does not say is passed over. */
  @Test
  void runTimesAreOfTheNewestThirty() {
    Given g = Given.estate();
    for (int i = 0; i < 32; i++) {
      g.point("p" + i, 800 - i * 24);
      g.points.set(i, started(g.points.get(i), i < 2 ? 600 : 60));
    }
    assertThat(of(g).runTimes().runs()).isEqualTo(30);
    assertThat(of(g).runTimes().median()).isEqualTo(Duration.ofMinutes(60));
    g.points.set(
        31, Fields.with(FactKinds.POINTS, g.points.get(31), "available", "", "started", ""));
    assertThat(of(g).runTimes().runs()).isEqualTo(30);
    g.points.subList(0, 3).clear();
    assertThat(of(g).runTimes().runs()).isEqualTo(28);
    g.points.clear();
    assertThat(of(g).runTimes()).isNull();
  }

  @Test
  void copiesCanBeAskedForFirst() {
    Given g = Given.estate().point("a", 10);
    assertThat(of(g).readableCopies())
        .extracting(Copy::store)
        .containsExactlyInAnyOrder("near", "far");
    Subject s = of(g);
    assertThat(s.copyCount().copies()).isEqualTo(3);
    assertThat(s.readableCopies()).hasSize(2);
  }

  @Test
  void aPointIsUsableByItsRowAndByItself() {
    Given g = Given.estate().point("bad", 30).point("good", 10);
    g.points.set(0, Fields.with(FactKinds.POINTS, g.points.get(0), "outcome", "failed"));
    Subject s = of(g);
    List<Judged> points = s.points();
    assertThat(s.usable(points.get(0))).isFalse();
    assertThat(s.usable(0)).isFalse();
    assertThat(s.usable(points.get(1))).isTrue();
    assertThat(s.usable(1)).isTrue();
  }

  @Test
  void theSameAtAnEarlierInstantIsMadeOnce() {
    Subject s = of(Given.estate().point("a", 10));
    Instant earlier = NOW.minusSeconds(60);
    assertThat(s.countedTo(earlier)).isSameAs(s.countedTo(earlier));
    assertThat(s.countedTo(earlier).asAt()).isEqualTo(earlier);
    assertThat(s.countedTo(NOW.minusSeconds(120)).asAt()).isEqualTo(NOW.minusSeconds(120));
  }

  /** By the copy rule of tier 3: 14 days. */
  @Test
  void freshPointsAreAtMostAsOldAsTheRuleSays() {
    Given g =
        Given.estate().point("old", 14 * 24 + 0.001).point("just", 14 * 24).point("new", 1);
    assertThat(of(g).freshPoints()).extracting(j -> j.point().key()).containsExactly("just", "new");
    assertThat(of(g).firstFresh()).isEqualTo(1);
  }

  @Test
  void theBaseThatIsInTheWayIsNamedByItsRow() {
    Given g = Given.estate().point("full", 30);
    g.point("inc", "r", Form.INCREMENTAL, "full", 10, PointOutcome.COMPLETE).copy("inc", "near");
    assertThat(of(g).badBase(1)).isNegative();
    g.copies.clear();
    g.copy("inc", "near").copy("full", "near", CopyState.MISSING, NOW.minusSeconds(60));
    assertThat(of(g).badBase(1)).isZero();
  }
}
