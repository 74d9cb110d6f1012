package hardproof.core.forecast;

import static hardproof.core.Given.NOW;
import static hardproof.core.forecast.Ahead.NIGHTS;
import static hardproof.core.forecast.Ahead.asNeeded;
import static hardproof.core.forecast.Ahead.drilled;
import static hardproof.core.forecast.Ahead.forecast;
import static hardproof.core.forecast.Ahead.one;
import static hardproof.core.forecast.Ahead.programme;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.Method;
import hardproof.core.estate.Selector;
import hardproof.core.facts.Estate;
import hardproof.core.forecast.Forecast.Gap;
import hardproof.core.forecast.Forecast.Why;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.Limits;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.programmes.Showing;
import hardproof.core.proof.Evaluator;
import hardproof.core.schedule.Recurrence;
import hardproof.core.schedule.Schedule;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * The coming nights. Tier 3: restored is demanded every 180 days. NOW is 24 November 2026, 10:00 UTC; drills take a
 * minute unless a test says otherwise. Invented data.
 */
class ForecasterTest {
  @Test
  void whatNoProgrammeDrillsLapsesAndNothingRenewsIt() {
    Forecast f = forecast(one(170), NIGHTS);
    assertThat(f.gaps()).singleElement().satisfies(g -> {
      assertThat(g.from()).isEqualTo(NOW.plus(Duration.ofDays(10)));
      assertThat(g.lapsing()).isTrue();
      assertThat(g.until()).isNull();
      assertThat(g.why()).isEqualTo(Why.NO_PROGRAMME);
      assertThat(g.sentence()).isEqualTo("no programme drills it");
    });
    assertThat(f.neverRenewed()).hasSize(1);
    assertThat(f.starts()).isEmpty();
    // A proof of 180 days that is one day old outlives the forecast.
    assertThat(forecast(one(1), NIGHTS).gaps()).isEmpty();
  }

  /** A proof of 180 days may be renewed 36 days before it lapses: 14 December, and that night it is. */
  @Test
  void asNeededItIsRenewedInTheFirstNightOfTheLastFifthOfItsPeriod() {
    Forecast f = forecast(one(124), NIGHTS, asNeeded());
    assertThat(f.gaps()).isEmpty();
    assertThat(f.starts())
        .containsExactly(new Forecast.Start("r0", "p", Instant.parse("2026-12-14T22:00:00Z")));
    assertThat(f.nights()).hasSize(90);
    assertThat(f.nights().get(20)).satisfies(n -> {
      assertThat(n.drills()).isEqualTo(1);
      assertThat(n.busy()).isEqualTo(Duration.ofMinutes(1));
      assertThat(n.room()).isEqualTo(Duration.ofHours(16));
      assertThat(n.bytes()).isEqualTo(1000);
    });
  }

  /** What could not be drilled when it was tried renews nothing and takes no room. */
  @Test
  void whatWasRefusedLastIsNotCountedOn() {
    Estate estate = drilled(2, 170, Duration.ofMinutes(1)).at(NOW);
    Forecast f = new Forecaster(
            estate,
            Evaluator.evaluate(estate, Standard.shipped()),
            List.of(asNeeded()),
            store -> true,
            (programme, resource) ->
                programme.key().equals("p") && resource.equals("r0") ? "no manifest" : null)
        .forecast(NIGHTS, Forecaster.AHEAD);
    assertThat(f.starts()).extracting(Forecast.Start::resource).containsExactly("r1");
    assertThat(f.neverRenewed()).singleElement().satisfies(g -> {
      assertThat(g.resource()).isEqualTo("r0");
      assertThat(g.why()).isEqualTo(Why.NO_POINT);
      assertThat(g.sentence()).isEqualTo("when it was tried last: no manifest");
    });
  }

  /** Nobody knows before what a sample of all points draws: it takes its time of the night, and renews nothing. */
  @Test
  void aSampleTakesRoomAndIsNotCountedOn() {
    Recurrence daily = after -> Optional.of(after.plus(Duration.ofDays(1)));
    ProgrammeTerms p = programme(daily, Showing.DEMANDED, Limits.NONE);
    ProgrammeTerms sampling = new ProgrammeTerms(
        p.key(),
        p.name(),
        p.scope(),
        p.demanding(),
        p.timing(),
        p.showing(),
        new PointChoice(PointChoice.Way.RANDOM, null, 3),
        p.copy(),
        p.hold(),
        p.limits());
    Forecast f = forecast(drilled(2, 170, Duration.ofMinutes(1)), Capacity.usual(), sampling);
    assertThat(f.starts()).isEmpty();
    assertThat(f.nights().get(1).drills()).isEqualTo(3);
    assertThat(f.nights().get(1).busy()).isEqualTo(Duration.ofMinutes(3));
    assertThat(f.neverRenewed()).hasSize(2).allSatisfy(g -> {
      assertThat(g.why()).isEqualTo(Why.BY_CHANCE);
      assertThat(g.sentence())
          .isEqualTo(
              "P draws a sample of all points, and whether it is among them nobody knows before");
    });
  }

  @Test
  void whatIsNotProvenIsDrilledInTheNextNight() {
    Given g = Given.estate().point("a", 5);
    Forecast f = forecast(g, NIGHTS, asNeeded());
    assertThat(f.gaps()).singleElement().satisfies(gap -> {
      assertThat(gap.lapsing()).isFalse();
      assertThat(gap.from()).isEqualTo(NOW);
      assertThat(gap.sentence()).isEqualTo("P drills it in the next night");
      // 1,000 bytes at the 100 MB a second that the store is said to read.
      assertThat(gap.until())
          .isEqualTo(Instant.parse("2026-11-24T22:00:00.001Z").minusMillis(1));
    });
    assertThat(f.neverRenewed()).isEmpty();
  }

  @Test
  void aRuleStartsItWheneverItComes() {
    Recurrence weekly = Schedule.every(Duration.ofDays(7)).recurrence(); // Mondays at 0:00
    Forecast f = forecast(one(178), NIGHTS, programme(weekly, Showing.STRONGEST, Limits.NONE));
    assertThat(f.starts()).hasSize(13);
    assertThat(f.starts().get(0).at()).isEqualTo(Instant.parse("2026-11-30T00:00:00Z"));
    assertThat(f.gaps()).singleElement().satisfies(gap -> {
      assertThat(gap.from()).isEqualTo(NOW.plus(Duration.ofDays(2)));
      assertThat(gap.until()).isEqualTo(Instant.parse("2026-11-30T00:01:00Z"));
      assertThat(gap.why()).isEqualTo(Why.TOO_SELDOM);
      assertThat(gap.sentence()).isEqualTo("P drills it next on 30 Nov 00:00");
    });
  }

  /** At noon the hours are over; the start window of four hours too, long before they begin again. */
  @Test
  void aStartOutsideTheHoursIsMissedUnlessItsWindowReachesThem() {
    Recurrence noon = after -> Schedule.every(Duration.ofDays(1))
        .recurrence()
        .nextAfter(after.minus(Duration.ofHours(12)))
        .map(i -> i.plus(Duration.ofHours(12)));
    Forecast noonly = forecast(one(178), NIGHTS, programme(noon, Showing.STRONGEST, Limits.NONE));
    assertThat(noonly.starts()).isEmpty();
    assertThat(noonly.gaps()).singleElement().extracting(Gap::why).isEqualTo(Why.CAPACITY);
    Recurrence evening = after ->
        noon.nextAfter(after.minus(Duration.ofHours(6))).map(i -> i.plus(Duration.ofHours(6)));
    Forecast f = forecast(one(178), NIGHTS, programme(evening, Showing.STRONGEST, Limits.NONE));
    assertThat(f.starts().get(0).at()).isEqualTo(Instant.parse("2026-11-24T22:00:00Z"));
    assertThat(f.gaps()).isEmpty();
  }

  @Test
  void whyNothingRenewsItIsSaid() {
    Given weak = one(170);
    Forecast f =
        forecast(weak, NIGHTS, programme(null, Showing.by(Method.READ_THROUGH), Limits.NONE));
    assertThat(f.gaps().get(0).why()).isEqualTo(Why.TOO_WEAK);
    assertThat(f.gaps().get(0).sentence())
        .isEqualTo("P drills it by read-through, which shows intact; restored is demanded");

    Given unread = one(170);
    unread.copies.clear();
    unread.stores.add(Given.store("gone", "C", hardproof.core.estate.Medium.DISK, null, true));
    unread.copy("a0", "gone");
    assertThat(forecast(unread, NIGHTS, asNeeded()).gaps().get(0).sentence())
        .isEqualTo("no copy of its points can be read from here");
    unread.thePoint("a0", "outcome", "failed");
    Gap none = forecast(unread, NIGHTS, asNeeded()).gaps().get(0);
    assertThat(none.why()).isEqualTo(Why.NO_POINT);
    assertThat(none.sentence()).isEqualTo("it has no usable recovery point");

    Gap longer = forecast(drilled(1, 170, Duration.ofHours(9)), NIGHTS, asNeeded())
        .gaps()
        .get(0);
    assertThat(longer.why()).isEqualTo(Why.NIGHT_TOO_SHORT);
    assertThat(longer.sentence()).isEqualTo("a drill of it takes 9 h, and a night has 8 h");
    assertThat(
            forecast(drilled(1, 170, Duration.ofHours(8)), NIGHTS, asNeeded()).gaps())
        .isEmpty();

    Gap nothing = forecast(one(170), NIGHTS.with(0), asNeeded()).gaps().get(0);
    assertThat(nothing.why()).isEqualTo(Why.CAPACITY);
    assertThat(nothing.sentence()).isEqualTo("programmes may start no drills at all");
  }

  /** What nobody can drill for a broken reason is not put down to the nights. */
  @Test
  void aResourceThatIsLeftOutOfEverythingIsInNoForecast() {
    Given g = one(200);
    g.exceptions.add(new hardproof.core.estate.AcceptedException(
        "x",
        Selector.EVERYTHING,
        null,
        "out of use",
        "a",
        "b",
        NOW.minusSeconds(9),
        null,
        null,
        "feed"));
    assertThat(forecast(g, NIGHTS, asNeeded()).gaps()).isEmpty();
  }

  /** Of 40 drills of an hour each that are all due, a night of eight hours holds 16 by twos. */
  @ParameterizedTest
  @CsvSource({"2,16,16,8", "1,8,8,8", "3,24,16,0"})
  void aNightHoldsNoMoreThanItsHours(int atOnce, int first, int second, int third) {
    Forecast f = forecast(drilled(40, 181, Duration.ofHours(1)), NIGHTS.with(atOnce), asNeeded());
    assertThat(f.nights().subList(0, 3))
        .extracting(Forecast.Night::drills)
        .containsExactly(first, second, third);
    assertThat(f.gaps()).hasSize(40).allMatch(g -> g.until() != null);
    assertThat(f.nights().get(0).busy()).isEqualTo(Duration.ofHours(first));
  }

  /** Where all day is open midnight ends nothing: what takes thirty hours is drilled, and takes a place. */
  @Test
  void whatTakesLongerThanADayIsDrilledWhereNoHoursEndIt() {
    Forecast f = forecast(drilled(3, 181, Duration.ofHours(30)), Capacity.usual(), asNeeded());
    assertThat(f.neverRenewed()).isEmpty();
    assertThat(f.starts()).hasSize(3);
    assertThat(f.starts().get(0).at()).isEqualTo(Instant.parse("2026-11-25T00:00:00Z"));
    assertThat(f.gaps().get(0).until()).isEqualTo(Instant.parse("2026-11-26T06:00:00Z"));
  }

  /** Two drills that each ask for all that their store can read take twice as long together as apart. */
  @Test
  void drillsFromOneStoreShareWhatItCanRead() {
    Given g = drilled(2, 181, Duration.ofHours(1)).theStore("near", "throughput", "1 B");
    // 1,000 bytes in an hour are 0.28 a second; both together are 0.56 of the one there is.
    assertThat(forecast(g, NIGHTS, asNeeded()).nights().get(0).busy())
        .isEqualTo(Duration.ofHours(2));
    Given slow = drilled(2, 181, Duration.ofSeconds(1000)).theStore("near", "throughput", "1 B");
    Forecast f = forecast(slow, NIGHTS, asNeeded());
    assertThat(f.nights().get(0).busy()).isEqualTo(Duration.ofSeconds(4000));
    assertThat(f.gaps())
        .allSatisfy(
            gap -> assertThat(gap.until()).isEqualTo(Instant.parse("2026-11-24T22:33:20Z")));
  }

  @Test
  void aProgrammesOwnLimitsHoldInTheForecastToo() {
    Given g = drilled(10, 181, Duration.ofHours(1));
    Limits bytes = new Limits(null, 3000L, null, null);
    assertThat(forecast(g, NIGHTS, programme(null, Showing.DEMANDED, bytes))
            .nights()
            .get(0)
            .drills())
        .isEqualTo(3);
    Limits alone = new Limits(1, null, null, null);
    assertThat(forecast(g, NIGHTS, programme(null, Showing.DEMANDED, alone))
            .nights()
            .get(0)
            .drills())
        .isEqualTo(8);
    Capacity priced =
        new Capacity(NIGHTS.hours(), NIGHTS.zone(), 2, null, null, new Capacity.Prices(5, 0));
    Limits money = new Limits(null, null, 24.0, null);
    Forecast f = forecast(g, priced, programme(null, Showing.DEMANDED, money));
    assertThat(
            f.starts().stream().filter(s -> s.at().isBefore(Instant.parse("2026-12-01T00:00:00Z"))))
        .hasSize(4);
    assertThat(f.starts()).hasSize(10);
  }

  /**
   * Liu and Layland 1973: earliest deadline first meets every deadline on one server exactly when the utilisation is
   * at most 1. Days stand for the unit: a night of one hour, drills of an hour, and resources whose proofs last as
   * many days as the task set says; a resource that is proven for n days asks for 1/n of the nights.
   */
  @Test
  void theSoonestToLapseFirstLosesNothingWhereAnythingCould() {
    Random random = new Random(1973);
    int full = 0;
    for (int trial = 0; trial < 60; trial++) {
      List<Integer> periods = periods(random);
      double utilisation = periods.stream().mapToDouble(p -> 1.0 / p).sum();
      boolean feasible = utilisation <= 1;
      List<EdfTask.Job> late = EdfTask.late(periods, 720);
      assertThat(late.isEmpty()).as(periods + " at " + utilisation).isEqualTo(feasible);
      full += feasible ? 1 : 0;
    }
    assertThat(full).isBetween(10, 50);
  }

  private static List<Integer> periods(Random random) {
    int[] some = {2, 3, 4, 5, 6, 8, 9, 10, 12};
    return IntStream.range(0, 3 + random.nextInt(4))
        .mapToObj(i -> some[random.nextInt(some.length)])
        .toList();
  }
}
