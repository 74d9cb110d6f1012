package hardproof.core.points;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import hardproof.core.points.ExposureCurve.Summary;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import java.util.Random;
import org.junit.jupiter.api.Test;

class ExposureCurveTest {
  private static ExposureCurve curve(long countedFrom, List<UsableSpan> spans) {
    return ExposureCurve.of(
        countedFrom,
        spans.stream().mapToLong(UsableSpan::dataTime).toArray(),
        spans.stream().mapToLong(UsableSpan::from).toArray(),
        spans.stream().mapToLong(UsableSpan::until).toArray());
  }

  private static final long HOUR = 3_600_000L;
  private static final long DAY = 24 * HOUR;

  private static UsableSpan span(long data, long from) {
    return new UsableSpan(data, from, UsableSpan.OPEN);
  }

  /** The worked example of the manual (docs/criteria, "Exposure"). */
  @Test
  void aDailyJobThatRunsElevenHoursKeepsADayForThirteenHoursOfTwentyFour() {
    List<UsableSpan> spans = new ArrayList<>();
    for (int day = 0; day <= 10; day++) {
      spans.add(span(day * DAY, day * DAY + 11 * HOUR));
    }
    ExposureCurve curve = curve(0, spans);
    Summary summary = curve.over(2 * DAY, 9 * DAY, DAY);

    assertThat(summary.worst()).hasValue(35 * HOUR);
    assertThat(summary.attainment().orElseThrow()).isCloseTo(13.0 / 24, within(1e-12));
    assertThat(curve.at(5 * DAY + 11 * HOUR - 1)).hasValue(35 * HOUR - 1);
    assertThat(curve.at(5 * DAY + 11 * HOUR)).hasValue(11 * HOUR);
  }

  @Test
  void aPointThatArrivesOutOfOrderDoesNotMakeExposureWorse() {
    ExposureCurve curve = curve(0, List.of(span(10 * HOUR, 11 * HOUR), span(5 * HOUR, 12 * HOUR)));
    assertThat(curve.at(12 * HOUR)).hasValue(2 * HOUR);
  }

  @Test
  void aPointThatStopsBeingUsableHandsBackToTheNextOlder() {
    ExposureCurve curve =
        curve(0, List.of(span(1 * HOUR, 1 * HOUR), new UsableSpan(5 * HOUR, 5 * HOUR, 8 * HOUR)));
    assertThat(curve.at(8 * HOUR - 1)).hasValue(3 * HOUR - 1);
    assertThat(curve.at(8 * HOUR)).hasValue(7 * HOUR);
  }

  @Test
  void withoutAPointEverythingWouldBeLost() {
    ExposureCurve curve = curve(0, List.of());
    Summary summary = curve.over(0, DAY, DAY);
    assertThat(curve.at(5)).isEmpty();
    assertThat(summary.worst()).isEmpty();
    assertThat(summary.attainment().orElseThrow()).isZero();
    assertThat(summary.counted()).isEqualTo(DAY);
  }

  @Test
  void nothingIsCountedBeforeTheResourceWasFirstSeen() {
    ExposureCurve curve = curve(DAY, List.of(span(DAY, DAY + HOUR)));
    Summary summary = curve.over(0, 2 * DAY, DAY);
    assertThat(summary.counted()).isEqualTo(DAY);
    assertThat(summary.worst()).isEmpty();
    assertThat(summary.worstAt()).isEqualTo(DAY);
    assertThat(summary.attainment().orElseThrow()).isCloseTo(23.0 / 24, within(1e-12));
    assertThat(curve.over(0, DAY, DAY).attainment()).isEmpty();
  }

  @Test
  void attainmentAtExactlyTheRpoCountsAsWithin() {
    ExposureCurve curve = curve(0, List.of(span(0, 0)));
    assertThat(curve.over(0, DAY, DAY).attainment()).hasValue(1.0);
    assertThat(curve.over(0, DAY, DAY).worst()).hasValue(DAY);
    assertThat(curve.over(0, DAY, DAY - 1).attainment().orElseThrow()).isLessThan(1.0);
    assertThat(curve.over(0, DAY, DAY + 1).attainment()).hasValue(1.0);
  }

  @Test
  void anEmptySpanChangesNothing() {
    ExposureCurve curve = curve(0, List.of(span(0, 0), new UsableSpan(5, 9, 9)));
    assertThat(curve.teeth(0, 100)).hasSize(1);
  }

  /** Property: the teeth agree with the definition, evaluated instant by instant. */
  @Test
  void agreesWithTheDefinitionOnRandomEstates() {
    Random random = new Random(20261124);
    for (int round = 0; round < 300; round++) {
      List<UsableSpan> spans = new ArrayList<>();
      for (int i = random.nextInt(12); i > 0; i--) {
        long data = random.nextInt(60);
        long from = data + random.nextInt(20);
        spans.add(new UsableSpan(
            data, from, random.nextBoolean() ? UsableSpan.OPEN : from + random.nextInt(25)));
      }
      long first = random.nextInt(10);
      ExposureCurve curve = curve(first, spans);
      long rpo = 1 + random.nextInt(20);
      long within = 0;
      for (long x = first; x < 80; x++) {
        long at = x;
        OptionalLong newest = spans.stream()
            .filter(s -> s.from() <= at && at < s.until())
            .mapToLong(UsableSpan::dataTime)
            .max();
        assertThat(curve.at(x))
            .as("round %d at %d", round, x)
            .isEqualTo(newest.isEmpty() ? newest : OptionalLong.of(x - newest.getAsLong()));
        // Whole steps: exposure over [x, x+1) is at most rpo exactly when it is below rpo at x.
        if (newest.isPresent() && x - newest.getAsLong() < rpo) {
          within++;
        }
      }
      assertThat(curve.over(0, 80, rpo).within()).as("round %d", round).isEqualTo(within);
      assertThat(curve.over(0, 80, rpo).counted()).isEqualTo(80 - first);
    }
  }

  /** Outside check: the same figures by SQLite's window functions over the same rows. */
  @Test
  void agreesWithSqlWindowFunctions() throws SQLException {
    Random random = new Random(7);
    List<UsableSpan> spans = new ArrayList<>();
    for (int day = 0; day < 60; day++) {
      long data = day * DAY + random.nextInt((int) HOUR);
      spans.add(span(data, data + random.nextInt((int) (30 * HOUR))));
    }
    long from = 10 * DAY;
    long to = 55 * DAY;
    long rpo = 26 * HOUR;
    Summary summary = curve(0, spans).over(from, to, rpo);

    try (Connection db = DriverManager.getConnection("jdbc:sqlite::memory:")) {
      db.createStatement()
          .execute("CREATE TABLE point (data_time INTEGER, available INTEGER) STRICT");
      try (PreparedStatement insert = db.prepareStatement("INSERT INTO point VALUES (?, ?)")) {
        for (UsableSpan span : spans) {
          insert.setLong(1, span.dataTime());
          insert.setLong(2, span.from());
          insert.execute();
        }
      }
      String sql = """
          WITH ordered AS (
            SELECT available AS s,
                   MAX(data_time) OVER (ORDER BY available ROWS UNBOUNDED PRECEDING) AS d,
                   LEAD(available, 1, 9000000000000000000) OVER (ORDER BY available) AS e
            FROM point),
          clipped AS (
            SELECT MAX(s, %1$d) AS s, MIN(e, %2$d) AS e, d FROM ordered WHERE e > %1$d AND s < %2$d)
          SELECT MAX(e - d), SUM(MAX(0, MIN(e, d + %3$d) - s)) FROM clipped WHERE e > s
          """.formatted(from, to, rpo);
      try (ResultSet row = db.createStatement().executeQuery(sql)) {
        row.next();
        assertThat(summary.worst()).hasValue(row.getLong(1));
        assertThat(summary.within()).isEqualTo(row.getLong(2));
      }
    }
  }

  @Test
  void theTeethFillThePeriodFromWhereCountingBegins() {
    ExposureCurve curve = curve(
        2 * HOUR,
        List.of(span(3 * HOUR, 4 * HOUR), span(7 * HOUR, 8 * HOUR), span(20 * HOUR, 21 * HOUR)));
    assertThat(curve.teeth(0, 12 * HOUR))
        .containsExactly(
            new ExposureCurve.Tooth(2 * HOUR, 4 * HOUR, null),
            new ExposureCurve.Tooth(4 * HOUR, 8 * HOUR, 3 * HOUR),
            new ExposureCurve.Tooth(8 * HOUR, 12 * HOUR, 7 * HOUR));
    assertThat(curve.teeth(8 * HOUR, 9 * HOUR))
        .containsExactly(new ExposureCurve.Tooth(8 * HOUR, 9 * HOUR, 7 * HOUR));
    assertThat(curve.teeth(9 * HOUR, 9 * HOUR)).isEmpty();
  }

  /** However many points hold the same state of the data, it is there until the last of them goes. */
  @Test
  void pointsOfTheSameInstantAreCountedOneByOne() {
    for (int points = 1; points < 7; points++) {
      List<UsableSpan> spans = new ArrayList<>();
      for (int i = 0; i < points; i++) {
        spans.add(new UsableSpan(HOUR, (2 + i) * HOUR, (20 + i) * HOUR));
      }
      ExposureCurve curve = curve(0, spans);
      long lastEnds = (20 + points - 1) * HOUR;
      for (long at = 2 * HOUR; at < lastEnds; at += HOUR / 2) {
        assertThat(curve.newestDataTimeAt(at)).hasValue(HOUR);
      }
      assertThat(curve.newestDataTimeAt(lastEnds)).isEmpty();
    }
  }

  @Test
  void ofTwoEquallyBadInstantsTheFirstIsNamed() {
    ExposureCurve curve =
        curve(0, List.of(span(0, 0), span(4 * HOUR, 5 * HOUR), span(9 * HOUR, 9 * HOUR)));
    Summary summary = curve.over(0, 9 * HOUR, HOUR);
    assertThat(summary.worst()).hasValue(5 * HOUR);
    assertThat(summary.worstAt()).isEqualTo(5 * HOUR);
  }

  @Test
  void aSpanHoldsItsBeginningAndNotItsEnd() {
    UsableSpan span = new UsableSpan(1, 2, 4);
    assertThat(
            new boolean[] {span.contains(1), span.contains(2), span.contains(3), span.contains(4)})
        .containsExactly(false, true, true, false);
  }
}
