package hardproof.core.recipes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Rejection;
import hardproof.core.feeds.Values;
import hardproof.core.wording.WrongValue;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RowShaperTest {
  /** The name of a column is an expression that comes to what stands there; a condition is whether it stands there. */
  private static final Expressions NAMES = new Expressions() {
    @Override
    public Text text(String expression) {
      return new Text() {
        @Override
        public Set<String> columns() {
          return Set.of(expression);
        }

        @Override
        public Value of(Columns columns) {
          String value = columns.get(expression);
          if ("broken".equals(value)) {
            throw new WrongValue("can't be worked out: it is broken");
          }
          return new Value(value, false);
        }
      };
    }

    @Override
    public Condition condition(String expression) {
      return new Condition() {
        @Override
        public Set<String> columns() {
          return Set.of(expression);
        }

        @Override
        public boolean holds(Columns columns) {
          return columns.get(expression) != null;
        }
      };
    }
  };

  private static Map<String, FieldRule> fields() {
    Map<String, FieldRule> fields = new LinkedHashMap<>();
    fields.put("key", FieldRule.column("Session ID"));
    fields.put("resource", FieldRule.column("Client"));
    fields.put("form", FieldRule.always("full"));
    fields.put("data_time", FieldRule.column("Start Time"));
    fields.put("available", FieldRule.column("End Time"));
    fields.put(
        "outcome",
        FieldRule.column("Status").meaning(Map.of("Success", "complete", "Failure", "failed")));
    fields.put("size", FieldRule.column("Size").in("GB"));
    return fields;
  }

  private static RowShaper shaper(String zone, String pattern, Output output) {
    return new RowShaper(
        "f",
        new Recipe("theirs", Layout.PLAIN, new TimeReading(zone, pattern), List.of(output)),
        output,
        NAMES);
  }

  private static RowShaper shaper(String zone, String pattern) {
    return shaper(zone, pattern, new Output(BundleFile.POINTS, null, false, fields()));
  }

  private static RawRow row(String start) {
    return row("session id", "42", "client", "pay-db", "start time", start, "size", "1.5");
  }

  private static RawRow row(String... pairs) {
    Map<String, String> values = new LinkedHashMap<>(Map.of("status", "SUCCESS"));
    for (int i = 0; i < pairs.length; i += 2) {
      values.put(pairs[i], pairs[i + 1]);
    }
    return new RawRow(3, values);
  }

  @Test
  void columnsMeaningsOneValueForAllAndUnitsAreTurned() {
    Map<String, String> values =
        shaper("UTC", "dd.MM.yyyy HH:mm").shape(row("24.11.2026 03:10")).row().values();
    assertThat(values)
        .containsEntry("key", "42")
        .containsEntry("resource", "pay-db")
        .containsEntry("data_time", "2026-11-24T03:10:00Z")
        .containsEntry("outcome", "complete")
        .containsEntry("size", "1.5 GB")
        .containsEntry("form", "full")
        .doesNotContainKey("available");
    assertThat(Values.size(values.get("size"))).isEqualTo(1_500_000_000L);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "1,234,567 | 1234567 GB",
        "1,234.5 | 1234.5 GB",
        "1 234 | 1234 GB",
        "1'234.5 | 1234.5 GB",
        "1,234 | 1,234",
        "12 MB | 12 MB"
      })
  void groupsOfThreeAreReadWhereTheyCanBeNothingElse(String written, String read) {
    RawRow row = row(
        "session id", "1", "client", "c", "start time", "2026-11-01T00:00:00Z", "size", written);
    assertThat(shaper(null, null).shape(row).row().values()).containsEntry("size", read);
  }

  @ParameterizedTest
  @CsvSource({
    "dd.MM.yyyy HH:mm, Europe/Oslo, 24.11.2026 03:10, 2026-11-24T02:10:00Z",
    "M/d/yyyy h:mm a, America/New_York, 7/4/2026 3:10 pm, 2026-07-04T19:10:00Z",
    "d.M.yyyy H:mm[:ss], UTC, 4.7.2026 3:10, 2026-07-04T03:10:00Z",
    "epoch-seconds, , 1764000000, 2025-11-24T16:00:00Z",
    "epoch-seconds, , 1764000000.5000000000, 2025-11-24T16:00:00.500Z",
    "epoch-milliseconds, , 1764000000123, 2025-11-24T16:00:00.123Z",
    ", Europe/Oslo, 2026-11-24 03:10:00, 2026-11-24T02:10:00Z",
    ", Europe/Oslo, 2026-11-24 03:10:00.1234567891, 2026-11-24T02:10:00.123456789Z",
    ", Europe/Oslo, 2026-11-24T03:10:00Z, 2026-11-24T03:10:00Z",
    "yyyy-MM-dd HH:mm xxx, , 2026-11-24 03:10 +02:00, 2026-11-24T01:10:00Z"
  })
  void timesAreReadByPatternAndZone(String pattern, String zone, String text, Instant expected) {
    assertThat(shaper(zone, pattern).shape(row(text)).row().values().get("data_time"))
        .isEqualTo(expected.toString());
  }

  /** In Oslo the night of 29 March 2026 has no 02:30, and that of 25 October has two. */
  @Test
  void aTimeThatTheClockLeftOutIsRefusedAndOfTwoTheEarlierIsTaken() {
    RowShaper oslo = shaper("Europe/Oslo", "dd.MM.yyyy HH:mm");
    Rejection left = oslo.shape(row("29.03.2026 02:30")).rejection();
    assertThat(left.sentence())
        .isEqualTo("f, line 3, data_time \"29.03.2026 02:30\": is no time in Europe/Oslo: the clock"
            + " was put forward over it");
    assertThat(oslo.shape(row("25.10.2026 02:30")).row().values().get("data_time"))
        .isEqualTo("2026-10-25T00:30:00Z");
    assertThat(oslo.shape(row("yesterday")).rejection().reason())
        .isEqualTo("is not a time by the pattern dd.MM.yyyy HH:mm");
  }

  @Test
  void aRowThatDoesNotMeetTheConditionGivesNone() {
    RowShaper shaper = shaper(null, null, new Output(BundleFile.POINTS, "wanted", false, fields()));
    RawRow out = row("session id", "1", "client", "c", "start time", "2026-11-01T00:00:00Z");
    assertThat(shaper.shape(out)).isEqualTo(new RowShaper.Shaped(null, null));
    RawRow in =
        row("session id", "1", "client", "c", "start time", "2026-11-01T00:00:00Z", "wanted", "x");
    assertThat(shaper.shape(in).row()).isNotNull();
    assertThat(shaper.asked()).contains("wanted", "session_id", "start_time");
  }

  @Test
  void oneRowForEachKeyWhereThatIsSaid() {
    Output once = new Output(
        BundleFile.RESOURCES,
        null,
        true,
        Map.of(
            "key",
            FieldRule.column("client"),
            "name",
            FieldRule.column("client"),
            "kind",
            FieldRule.column("kind").orElse("database")));
    RowShaper shaper = shaper(null, null, once);
    assertThat(shaper.shape(row("client", "a")).row().values()).containsEntry("kind", "database");
    assertThat(shaper.shape(row("client", "a", "kind", "volume")).row())
        .as("the first of a key counts")
        .isNull();
    assertThat(shaper.shape(row("client", "b", "kind", "volume")).row().values())
        .containsEntry("kind", "volume");
    assertThat(shaper.shape(row("kind", "volume")).row()).as("it has no key").isNotNull();
    assertThat(shaper.shape(row("kind", "volume")).row())
        .as("each row without one is said of")
        .isNotNull();
  }

  @Test
  void whatCantBeWorkedOutIsSaidOfItsRowAndField() {
    Map<String, FieldRule> fields = fields();
    fields.put("key", FieldRule.by("client"));
    RowShaper shaper = shaper(null, null, new Output(BundleFile.POINTS, null, false, fields));
    assertThat(shaper.shape(row("client", "broken")).rejection().sentence())
        .isEqualTo("f, line 3, key: can't be worked out: it is broken");
  }

  @Test
  void recipesThatCantBeRightAreRefused() {
    assertThatThrownBy(() -> shaper("Narnia", null)).hasMessageContaining("is no time zone");
    assertThatThrownBy(() -> shaper(null, "dd.MM.yyyy HH:mm"))
        .hasMessageContaining("say which zone they are in");
    assertThatThrownBy(() -> shaper("UTC", "qqqqq{")).hasMessageContaining("is no time pattern");
    assertThatThrownBy(() -> shaper("UTC", "y".repeat(101)))
        .hasMessageContaining("has at most 100 characters");
    assertThatThrownBy(() -> shaper("UTC", "epoch-years"))
        .hasMessageContaining("is no way to write times");
    assertThatThrownBy(
            () -> new Output(BundleFile.POINTS, null, false, Map.of("key", FieldRule.column("a"))))
        .hasMessage("nothing leads to resource, form, outcome, which points must have; name a"
            + " column, an expression, or one value for every row");
    assertThatThrownBy(() ->
            new Output(BundleFile.POINTS, null, false, Map.of("colour", FieldRule.column("a"))))
        .hasMessage("'colour' is no field of points");
    assertThatThrownBy(() -> new FieldRule("a", "b", null, Map.of(), null))
        .hasMessageContaining("not from both");
    assertThatThrownBy(() -> new FieldRule(null, null, null, Map.of(), null))
        .hasMessageContaining("comes from nothing");
    assertThatThrownBy(() -> new Recipe(" ", Layout.PLAIN, new TimeReading(null, null), List.of()))
        .hasMessageContaining("needs a name");
    assertThatThrownBy(() -> new Recipe("r", Layout.PLAIN, new TimeReading(null, null), List.of()))
        .hasMessageContaining("gives 1 to 40 kinds of rows");
    assertThatThrownBy(() -> new Layout(1001, 0, "", List.of(), "", List.of()))
        .hasMessageContaining("1001 is neither");
    assertThatThrownBy(() -> new Layout(1, 101, "", List.of(), "", List.of()))
        .hasMessageContaining("0 to 100 rows");
    assertThatThrownBy(() -> new Layout(1, 0, "x", List.of(), "", List.of()))
        .hasMessageContaining("'x' divides no fields");
  }

  /** The quick way to read times against the general parser. */
  @Test
  void plainTimesAreReadAsTheGeneralParserReadsThem() {
    Random random = new Random(5);
    for (int i = 0; i < 20_000; i++) {
      Instant instant = Instant.ofEpochSecond(random.nextLong(4_000_000_000L));
      assertThat(Values.time(instant.toString()))
          .isEqualTo(OffsetDateTime.parse(instant.toString()).toInstant());
    }
    assertThatThrownBy(() -> Values.time("2026-13-24T03:10:00Z"))
        .hasMessageContaining("is not a time");
    assertThatThrownBy(() -> Values.time("2026-11-24T24:10:00Z"))
        .hasMessageContaining("is not a time");
    assertThatThrownBy(() -> Values.time("20x6-11-24T03:10:00Z"))
        .hasMessageContaining("is not a time");
  }
}
