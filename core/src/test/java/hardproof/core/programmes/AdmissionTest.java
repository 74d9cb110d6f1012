package hardproof.core.programmes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.estate.Selector;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Every limit, just under, at and over, and each by trying to break it. Invented data. */
class AdmissionTest {
  private static final Instant NOON = Instant.parse("2026-11-24T12:00:00Z");
  private static final Admission.Spent NOTHING = new SpentSince(null, 0, 0);

  /** So much since an instant; whoever asks about another is wrong. */
  private record SpentSince(Instant since, long bytes, double cost) implements Admission.Spent {
    @Override
    public long bytesSince(String programme, Instant asked) {
      assertThat(asked).isEqualTo(since);
      return bytes;
    }

    @Override
    public double costSince(String programme, Instant asked) {
      assertThat(asked).isEqualTo(since);
      return cost;
    }
  }

  private static ProgrammeTerms programme(HoursOfDay hours, Limits limits) {
    return new ProgrammeTerms(
        "p",
        "P",
        Selector.EVERYTHING,
        null,
        new ProgrammeTerms.Timing(null, Duration.ZERO, hours),
        Showing.DEMANDED,
        PointChoice.NEWEST,
        CopyChoice.NOT_LAST,
        Duration.ZERO,
        limits);
  }

  private static QueuedDrill drill(String id, String programme) {
    return new QueuedDrill(id, programme, NOON, null, "near", Duration.ofHours(1), 1000, 1000, 10);
  }

  private static List<QueuedDrill> underWay(int count, String programme) {
    return IntStream.range(0, count).mapToObj(i -> drill("u" + i, programme)).toList();
  }

  private static Held held(Capacity capacity, Limits limits, List<QueuedDrill> underWay) {
    return new Admission(capacity, Map.of("p", programme(null, limits)))
        .held(drill("a", "p"), NOON, underWay, NOTHING);
  }

  @ParameterizedTest
  @CsvSource({"2,1,", "2,2,AT_ONCE", "0,0,AT_ONCE", "16,15,"})
  void noMoreAtOnceThanThereMayBe(int atOnce, int underWay, Held expected) {
    assertThat(held(Capacity.usual().with(atOnce), Limits.NONE, underWay(underWay, "q")))
        .isEqualTo(expected);
  }

  /** Where programmes may start nothing, a person may still try one thing at a time. */
  @Test
  void aPersonMayDrillWhereProgrammesMayNot() {
    Admission none = new Admission(Capacity.usual().with(0), Map.of());
    assertThat(none.held(drill("a", null), NOON, List.of(), NOTHING)).isNull();
    assertThat(none.held(drill("a", null), NOON, underWay(1, null), NOTHING))
        .isEqualTo(Held.AT_ONCE);
  }

  @Test
  void noMoreFromOneStoreThanItMay() {
    Capacity one = new Capacity(null, ZoneOffset.UTC, 9, 2, null, Capacity.Prices.NONE);
    assertThat(held(one, Limits.NONE, underWay(1, "q"))).isNull();
    assertThat(held(one, Limits.NONE, underWay(2, "q"))).isEqualTo(Held.AT_ONCE_PER_STORE);
    List<QueuedDrill> elsewhere = List.of(
        new QueuedDrill("x", "q", NOON, null, "far", null, 1, 1, 0),
        new QueuedDrill("y", "q", NOON, null, "far", null, 1, 1, 0));
    assertThat(held(one, Limits.NONE, elsewhere)).isNull();
  }

  @ParameterizedTest
  @CsvSource({"3000,", "2999,SPACE", "1,SPACE"})
  void noMoreRoomThanThereIs(long room, Held expected) {
    assertThat(held(Capacity.usual().with(9).withRoom(room), Limits.NONE, underWay(2, "q")))
        .isEqualTo(expected);
  }

  @Test
  void noMoreOfItsOwnAtOnceThanAProgrammeMay() {
    Limits two = new Limits(2, null, null, null);
    assertThat(held(Capacity.usual().with(9), two, underWay(1, "p"))).isNull();
    assertThat(held(Capacity.usual().with(9), two, underWay(2, "p")))
        .isEqualTo(Held.PROGRAMME_AT_ONCE);
    assertThat(held(Capacity.usual().with(9), two, underWay(5, "q"))).isNull();
  }

  /** Counted from the opening of the night: 22:00 of the day before, also at noon after it. */
  @ParameterizedTest
  @CsvSource({"4000,", "4001,NIGHT_BYTES"})
  void noMoreBytesANightThanAProgrammeMay(long read, Held expected) {
    Capacity nights = Capacity.usual().with(HoursOfDay.parse("22:00-06:00"));
    Instant opened = Instant.parse("2026-11-23T22:00:00Z");
    Admission.Spent spent = new SpentSince(opened, read, 0);
    ProgrammeTerms allDay =
        programme(HoursOfDay.parse("00:00-23:59"), new Limits(null, 5000L, null, null));
    Held held =
        new Admission(nights, Map.of("p", allDay)).held(drill("a", "p"), NOON, List.of(), spent);
    assertThat(held).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource({"90,", "90.01,MONTH_COST"})
  void noMoreAMonthThanAProgrammeMaySpend(double cost, Held expected) {
    Admission.Spent spent = new SpentSince(Instant.parse("2026-10-31T23:00:00Z"), 0, cost);
    Capacity capacity =
        new Capacity(null, ZoneId.of("Europe/Oslo"), 2, null, null, Capacity.Prices.NONE);
    Limits limits = new Limits(null, null, 100.0, null);
    Held held = new Admission(capacity, Map.of("p", programme(null, limits)))
        .held(drill("a", "p"), NOON, List.of(), spent);
    assertThat(held).isEqualTo(expected);
  }

  /** It may begin from the opening on, and must be done at the closing. */
  @ParameterizedTest
  @CsvSource({
    "2026-11-24T21:59:59.999Z,HOURS",
    "2026-11-24T22:00:00Z,",
    "2026-11-25T05:00:00Z,",
    "2026-11-25T05:00:00.001Z,NIGHT_TOO_SHORT",
    "2026-11-25T06:00:00Z,HOURS"
  })
  void aProgrammeDrillsInItsHoursOnly(Instant now, Held expected) {
    HoursOfDay night = HoursOfDay.parse("22:00-06:00");
    Admission own = new Admission(Capacity.usual(), Map.of("p", programme(night, Limits.NONE)));
    Admission all =
        new Admission(Capacity.usual().with(night), Map.of("p", programme(null, Limits.NONE)));
    assertThat(own.held(drill("a", "p"), now, List.of(), NOTHING)).isEqualTo(expected);
    assertThat(all.held(drill("a", "p"), now, List.of(), NOTHING)).isEqualTo(expected);
    assertThat(all.held(drill("a", null), now, List.of(), NOTHING)).isNull();
  }

  /** On 25 October 2026 the hour from 2:00 to 3:00 comes twice in Oslo; on 29 March 2026 not at all. */
  @ParameterizedTest
  @CsvSource({"2026-10-24T20:00:00Z,9", "2026-03-28T21:00:00Z,7", "2026-11-24T21:00:00Z,8"})
  void aNightOfAClockChangeHasItsOwnLength(Instant opens, int hours) {
    Capacity oslo = new Capacity(
        HoursOfDay.parse("22:00-06:00"),
        ZoneId.of("Europe/Oslo"),
        2,
        null,
        null,
        Capacity.Prices.NONE);
    assertThat(oslo.night(opens))
        .isEqualTo(new HoursOfDay.Open(opens, opens.plus(Duration.ofHours(hours))));
    assertThat(oslo.night(opens.minusMillis(1))).isEqualTo(oslo.night(opens));
  }

  @Test
  void whatAPersonAskedForComesFirstThenWhatLapsesFirst() {
    QueuedDrill person = drill("d", null);
    QueuedDrill soon = new QueuedDrill("c", "p", NOON, NOON.plusSeconds(60), "near", null, 1, 1, 0);
    QueuedDrill later = new QueuedDrill(
        "b", "p", NOON.minusSeconds(9), NOON.plusSeconds(61), "near", null, 1, 1, 0);
    QueuedDrill never = drill("a", "p");
    List<QueuedDrill> all = new java.util.ArrayList<>(List.of(never, later, soon, person));
    Collections.shuffle(all, new java.util.Random(4));
    all.sort(Admission.IN_TURN);
    assertThat(all).containsExactly(person, soon, later, never);
    Admission admission = new Admission(Capacity.usual(), Map.of());
    assertThat(admission.next(NOON, all, List.of(), NOTHING)).contains(person);
    assertThat(admission.next(NOON, List.of(), List.of(), NOTHING)).isEmpty();
  }

  /** One that has no room does not hold up what comes after it and has. */
  @Test
  void whatHasNoRoomIsPassedBy() {
    Admission admission = new Admission(Capacity.usual().withRoom(1500L), Map.of());
    QueuedDrill wide = new QueuedDrill("a", "p", NOON, NOON, "near", null, 1, 1600, 0);
    assertThat(admission.next(NOON, List.of(wide, drill("b", "p")), List.of(), NOTHING))
        .map(QueuedDrill::id)
        .contains("b");
  }

  @Test
  void whatIsNoBoundIsRefused() {
    assertThatThrownBy(() -> Capacity.usual().with(-1)).isInstanceOf(WrongValue.class);
    assertThatThrownBy(() -> Capacity.usual().with(17)).hasMessageContaining("0 to 16, not 17");
    assertThatThrownBy(() -> Capacity.usual().withRoom(0L)).isInstanceOf(WrongValue.class);
    assertThatThrownBy(() -> new Capacity(null, ZoneOffset.UTC, 1, 0, null, Capacity.Prices.NONE))
        .isInstanceOf(WrongValue.class);
    assertThatThrownBy(() -> new Capacity.Prices(-0.01, 0)).isInstanceOf(WrongValue.class);
    assertThatThrownBy(() -> new Capacity.Prices(Double.NaN, 0)).isInstanceOf(WrongValue.class);
    assertThatThrownBy(() -> new Limits(0, null, null, null)).isInstanceOf(WrongValue.class);
    assertThatThrownBy(() -> new Limits(null, 0L, null, null)).isInstanceOf(WrongValue.class);
    assertThatThrownBy(() -> new Limits(null, null, -1.0, null)).isInstanceOf(WrongValue.class);
    assertThatThrownBy(() -> new Limits(null, null, null, 0.0)).isInstanceOf(WrongValue.class);
    assertThatThrownBy(() -> new Limits(null, null, null, 1.01)).isInstanceOf(WrongValue.class);
    assertThat(new Limits(null, null, null, 1.0).storeShare()).isEqualTo(1);
  }

  /** Drills × price for each + GB × price for each × days held, a part of a day as one. */
  @ParameterizedTest
  @CsvSource({"0,0,0.5", "2000000000,0,4.5", "2000000000,86400000,4.5", "2000000000,86400001,8.5"})
  void aDrillCostsWhatItTakesAndHolds(long bytes, long heldMs, double expected) {
    assertThat(new Capacity.Prices(0.5, 2).of(bytes, Duration.ofMillis(heldMs)))
        .isEqualTo(expected);
  }
}
