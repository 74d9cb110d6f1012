package hardproof.core.retention;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class RetentionTest {
  /** What a policy with these fields keeps. */
  private static Retention keeping(String... fields) {
    return Given.estate()
        .thePolicy("keep_last", "")
        .thePolicy(fields)
        .policies
        .get(0)
        .retention();
  }

  private static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");
  private static final ZoneId BERLIN = ZoneId.of("Europe/Berlin");

  /** Common practice, no source: 14 daily points reach two weeks, the same 14 every 12 hours one. */
  @Test
  void pointsKeptTimesIntervalIsTheReach() {
    Retention last14 = keeping("keep_last", "14");
    assertThat(last14.reachOnPaper(Duration.ofDays(1))).isEqualTo(Duration.ofDays(14));
    assertThat(last14.reachOnPaper(Duration.ofHours(12))).isEqualTo(Duration.ofDays(7));
    assertThat(last14.reachOnPaper(null)).isNull();
    assertThat(Retention.NONE.reachOnPaper(Duration.ofDays(1))).isNull();
    assertThat(Retention.NONE.stated()).isFalse();
  }

  /** Common practice, no source: 4 weekly and 12 monthly are 16 fulls. */
  @Test
  void aLongTailNeedsAFullForEachSlot() {
    Retention tail = keeping("keep_weekly", "4", "keep_monthly", "12");
    assertThat(tail.longTailFulls()).isEqualTo(16);
    assertThat(tail.slots(NOW, ZoneOffset.UTC)).hasSize(16);
    assertThat(tail.reachOnPaper(null)).isEqualTo(Duration.ofDays(360));
    assertThat(tail.words()).isEqualTo("4 weekly, 12 monthly");
  }

  /** The last day of a month that is also in a week's slot serves both. */
  @Test
  void slotsThatOnePointServesAreMerged() {
    Retention tail = keeping("keep_weekly", "4", "keep_monthly", "12");
    List<Instant> daily = new ArrayList<>();
    for (int day = 1; day < 500; day++) {
      daily.add(NOW.minus(Duration.ofDays(day)));
    }
    // Weeks 44 to 47 of 2026; the week with 31 October serves October too.
    assertThat(Retention.pointsNeeded(tail.slots(NOW, ZoneOffset.UTC), daily)).isEqualTo(15);
    assertThat(Retention.pointsNeeded(tail.slots(NOW, ZoneOffset.UTC), List.of()))
        .isZero();
  }

  /** Against trying every set of points. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
  void theLeastNumberOfPointsIsTheLeast(long seed) {
    Random random = new Random(seed);
    Retention rule = keeping("keep_for", "4d", "keep_weekly", "3", "keep_monthly", "2");
    List<Slot> slots = rule.slots(NOW, ZoneOffset.UTC);
    List<Instant> points = new ArrayList<>();
    for (int i = 0; i < 9; i++) {
      points.add(NOW.minus(Duration.ofHours(random.nextInt(24 * 70))));
    }
    long servable =
        slots.stream().filter(s -> points.stream().anyMatch(s::holds)).count();
    int least = Integer.MAX_VALUE;
    for (int set = 0; set < 1 << points.size(); set++) {
      int chosen = set;
      long served = slots.stream()
          .filter(s -> java.util.stream.IntStream.range(0, points.size())
              .anyMatch(i -> (chosen >> i & 1) == 1 && s.holds(points.get(i))))
          .count();
      if (served == servable) {
        least = Math.min(least, Integer.bitCount(set));
      }
    }
    assertThat(Retention.pointsNeeded(slots, points)).isEqualTo(least);
  }

  private static long[] at(String... times) {
    return java.util.Arrays.stream(times)
        .mapToLong(t -> Instant.parse(t).toEpochMilli())
        .sorted()
        .toArray();
  }

  /** The most recent ones; the running one when it holds a point, else counting begins before it. */
  @Test
  void slotsAreTheMostRecentCalendarUnitsOfTheZone() {
    Retention weekly = keeping("keep_weekly", "2");
    List<Slot> weeks = weekly.slots(NOW, BERLIN);
    assertThat(weeks).extracting(Slot::label).containsExactly("2026-W46", "2026-W47");
    assertThat(weeks.get(1).from()).isEqualTo("2026-11-15T23:00:00Z");
    assertThat(weeks.get(1).until()).isEqualTo("2026-11-22T23:00:00Z");
    assertThat(weekly.slots(NOW, BERLIN, at("2026-11-22T22:59:59Z")))
        .extracting(Slot::label)
        .containsExactly("2026-W46", "2026-W47");
    assertThat(weekly.slots(NOW, BERLIN, at("2026-11-22T23:00:00Z")))
        .extracting(Slot::label)
        .containsExactly("2026-W47", "2026-W48");
    Retention days = keeping("keep_for", "3d");
    // The point of 21 November may be gone by now, as the rule says.
    assertThat(days.slots(NOW, BERLIN))
        .extracting(Slot::label)
        .containsExactly("2026-11-22", "2026-11-23");
    assertThat(days.slots(NOW, BERLIN, at("2026-11-24T02:00:00Z")))
        .extracting(Slot::label)
        .containsExactly("2026-11-22", "2026-11-23", "2026-11-24");
    assertThat(keeping("keep_yearly", "1").slots(NOW, BERLIN).get(0).label()).isEqualTo("2025");
    assertThat(keeping("keep_monthly", "1").slots(NOW, BERLIN).get(0).label()).isEqualTo("2026-10");
  }

  /** 25 October 2026 has 25 hours in Berlin, 29 March 23. */
  @Test
  void theDayOfAClockChangeIsOneSlot() {
    Slot autumn = keeping("keep_for", "2d")
        .slots(Instant.parse("2026-10-26T12:00:00Z"), BERLIN)
        .get(0);
    assertThat(ChronoUnit.HOURS.between(autumn.from(), autumn.until())).isEqualTo(25);
    Slot spring = keeping("keep_for", "2d")
        .slots(Instant.parse("2026-03-30T12:00:00Z"), BERLIN)
        .get(0);
    assertThat(ChronoUnit.HOURS.between(spring.from(), spring.until())).isEqualTo(23);
  }

  @Test
  void missingSlotsAreThoseAfterFirstSeenWithoutAPoint() {
    List<Slot> days = keeping("keep_for", "4d").slots(NOW, ZoneOffset.UTC);
    long midnight = Instant.parse("2026-11-22T00:00:00Z").toEpochMilli();
    long[] points = {midnight - 1, midnight};
    assertThat(Retention.missing(days, points, null))
        .extracting(Slot::label)
        .containsExactly("2026-11-23");
    points = new long[] {midnight - 1};
    assertThat(Retention.missing(days, points, null))
        .extracting(Slot::label)
        .containsExactly("2026-11-22", "2026-11-23");
    assertThat(Retention.missing(days, points, Instant.parse("2026-11-23T00:00:00.001Z")))
        .isEmpty();
    assertThat(Retention.missing(days, points, Instant.parse("2026-11-23T00:00:00Z")))
        .hasSize(1);
  }

  @Test
  void whatGoesNextAndWhatReachIsLeft() {
    Retention rule = keeping("keep_last", "3", "keep_monthly", "2");
    List<Instant> points = List.of(
        Instant.parse("2026-11-24T00:00:00Z"),
        Instant.parse("2026-11-23T00:00:00Z"),
        Instant.parse("2026-11-22T00:00:00Z"),
        Instant.parse("2026-11-21T00:00:00Z"),
        Instant.parse("2026-10-31T00:00:00Z"));
    List<Instant> leaves = rule.leaves(points, Duration.ofDays(1), NOW, ZoneOffset.UTC);
    assertThat(leaves)
        .containsExactly(
            // The newest of November stands for it until December and January have points.
            Instant.parse("2027-01-01T00:00:00Z"),
            NOW.plus(Duration.ofDays(2)),
            NOW.plus(Duration.ofDays(1)),
            NOW,
            Instant.parse("2026-12-01T00:00:00Z"));
    assertThat(Retention.reachOn(NOW, points, leaves))
        .isEqualTo(Duration.between(points.get(4), NOW));
    Instant later = Instant.parse("2026-12-01T00:00:00Z");
    assertThat(Retention.reachOn(later, points, leaves))
        .isEqualTo(Duration.between(points.get(0), later));
    assertThat(Retention.reachOn(Instant.parse("2027-01-01T00:00:00Z"), points, leaves))
        .isNull();
    assertThat(Retention.NONE.leaves(points, null, NOW, ZoneOffset.UTC))
        .isEqualTo(Collections.nCopies(5, null));
  }

  /** Weeks of 7, months of 30 and years of 365 days, as in the definition. */
  @Test
  void eachPartOfTheLongTailReachesByItself() {
    assertThat(keeping("keep_weekly", "4").reachOnPaper(null)).isEqualTo(Duration.ofDays(28));
    assertThat(keeping("keep_yearly", "7").reachOnPaper(null)).isEqualTo(Duration.ofDays(7 * 365));
    assertThat(keeping("keep_weekly", "4", "keep_monthly", "12", "keep_yearly", "7")
            .longTailFulls())
        .isEqualTo(23);
  }

  /** A year's point stands for it until as many later years hold one: here the second of January. */
  @Test
  void yearlyPointsLeaveWhenEnoughLaterYearsHoldOne() {
    Retention rule = keeping("keep_yearly", "2");
    List<Instant> points = List.of(
        Instant.parse("2026-03-01T00:00:00Z"),
        Instant.parse("2026-01-05T00:00:00Z"),
        Instant.parse("2026-01-02T00:00:00Z"),
        Instant.parse("2025-07-01T00:00:00Z"),
        Instant.parse("2024-07-01T00:00:00Z"));
    assertThat(rule.leaves(points, Duration.ofDays(30), NOW, ZoneOffset.UTC))
        .containsExactly(
            // Every 30 days from 1 March 2026: the first in 2028 is on 20 January.
            Instant.parse("2028-01-20T00:00:00Z"),
            null,
            null,
            Instant.parse("2027-01-25T00:00:00Z"),
            Instant.parse("2026-01-02T00:00:00Z"));
  }

  @Test
  void withoutAnIntervalASlotIsServedUntilTheNextCanBegin() {
    Retention rule = keeping("keep_monthly", "1");
    List<Instant> points = List.of(Instant.parse("2026-11-24T00:00:00Z"));
    for (Duration interval : java.util.Arrays.asList(null, Duration.ZERO)) {
      assertThat(rule.leaves(points, interval, NOW, ZoneOffset.UTC))
          .containsExactly(Instant.parse("2026-12-01T00:00:00Z"));
    }
  }

  @Test
  void aPointOfTheNextMidnightIsNotOfTheDay() {
    Slot day = new Slot(
        SlotKind.DAY,
        Instant.parse("2026-11-23T00:00:00Z"),
        Instant.parse("2026-11-24T00:00:00Z"),
        "2026-11-23");
    long next = day.until().toEpochMilli();
    assertThat(Retention.missing(List.of(day), new long[] {next}, null)).containsExactly(day);
    assertThat(Retention.missing(List.of(day), new long[] {next - 1}, null)).isEmpty();
  }

  /** Just enough of the last points, else whole days; what reaches far enough is left as it is. */
  @Test
  void aRuleIsMadeToReachSoFar() {
    Retention seven = keeping("keep_last", "7");
    Duration day = Duration.ofDays(1);
    assertThat(seven.reaching(Duration.ofDays(7), day)).isEqualTo(seven);
    Retention more = seven.reaching(Duration.ofDays(7).plusMillis(1), day);
    assertThat(more.last()).isEqualTo(8);
    assertThat(more.reachOnPaper(day)).isEqualTo(Duration.ofDays(8));
    for (Duration unknown : new Duration[] {null, Duration.ZERO}) {
      assertThat(Retention.NONE.reaching(Duration.ofDays(14), unknown).keepFor())
          .isEqualTo(Duration.ofDays(14));
    }
    assertThat(
            Retention.NONE.reaching(Duration.ofDays(9999), Duration.ofMillis(1)).last())
        .isEqualTo(Integer.MAX_VALUE);
  }
}
