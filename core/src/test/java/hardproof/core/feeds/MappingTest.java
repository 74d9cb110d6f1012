package hardproof.core.feeds;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MappingTest {
  private static final Map<String, String> COLUMNS = Map.of(
      "key",
      "Session ID",
      "resource",
      "Client",
      "data_time",
      "Start Time",
      "available",
      "End Time",
      "outcome",
      "Status",
      "size",
      "Size");

  private static Mapping mapping(String zone, String pattern) {
    return new Mapping(
        "theirs",
        BundleFile.POINTS,
        COLUMNS,
        Map.of("form", "full"),
        Map.of("outcome", Map.of("Success", "complete", "Failure", "failed")),
        zone,
        pattern,
        Map.of("size", "GB"));
  }

  private static RawRow row(String start) {
    return new RawRow(
        3,
        Map.of(
            "session id",
            "42",
            "client",
            "pay-db",
            "start time",
            start,
            "status",
            "SUCCESS",
            "size",
            "1.5"));
  }

  @Test
  void columnsValuesConstantsAndUnitsAreTurned() {
    Map<String, String> values = mapping("UTC", "dd.MM.yyyy HH:mm")
        .apply("f", row("24.11.2026 03:10"))
        .row()
        .values();
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
  @CsvSource({
    "dd.MM.yyyy HH:mm, Europe/Oslo, 24.11.2026 03:10, 2026-11-24T02:10:00Z",
    "M/d/yyyy h:mm a, America/New_York, 7/4/2026 3:10 pm, 2026-07-04T19:10:00Z",
    "epoch-seconds, , 1764000000, 2025-11-24T16:00:00Z",
    "epoch-milliseconds, , 1764000000123, 2025-11-24T16:00:00.123Z",
    ", Europe/Oslo, 2026-11-24 03:10:00, 2026-11-24T02:10:00Z",
    ", Europe/Oslo, 2026-11-24T03:10:00Z, 2026-11-24T03:10:00Z",
    "yyyy-MM-dd HH:mm xxx, , 2026-11-24 03:10 +02:00, 2026-11-24T01:10:00Z"
  })
  void timesAreReadByPatternAndZone(String pattern, String zone, String text, Instant expected) {
    assertThat(mapping(zone, pattern).apply("f", row(text)).row().values().get("data_time"))
        .isEqualTo(expected.toString());
  }

  /** In Oslo the night of 29 March 2026 has no 02:30, and that of 25 October has two. */
  @Test
  void aTimeThatTheClockLeftOutIsRefusedAndOfTwoTheEarlierIsTaken() {
    Mapping oslo = mapping("Europe/Oslo", "dd.MM.yyyy HH:mm");
    List<Rejection> rejections = oslo.apply("f", row("29.03.2026 02:30")).rejections();
    assertThat(rejections).hasSize(1);
    assertThat(rejections.get(0).sentence())
        .isEqualTo("f, line 3, data_time \"29.03.2026 02:30\": is no time in Europe/Oslo: the clock"
            + " was put forward over it");
    assertThat(oslo.apply("f", row("25.10.2026 02:30")).row().values().get("data_time"))
        .isEqualTo("2026-10-25T00:30:00Z");
    assertThat(oslo.apply("f", row("yesterday")).rejections().get(0).reason())
        .isEqualTo("is not a time by the pattern dd.MM.yyyy HH:mm");
  }

  @Test
  void mappingsThatCantBeRightAreRefused() {
    assertThatThrownBy(() -> mapping("Narnia", null)).hasMessageContaining("is no time zone");
    assertThatThrownBy(() -> mapping(null, "dd.MM.yyyy HH:mm"))
        .hasMessageContaining("say which zone they are in");
    assertThatThrownBy(() -> mapping("UTC", "qqqqq{")).hasMessageContaining("is no time pattern");
    assertThatThrownBy(() -> mapping("UTC", "epoch-years"))
        .hasMessageContaining("is no way to write times");
    assertThatThrownBy(() -> new Mapping(
            "m", BundleFile.POINTS, Map.of("key", "a"), Map.of(), Map.of(), null, null, Map.of()))
        .hasMessage("nothing is mapped to resource, form, outcome, which points must have; name a"
            + " column, or give every row one value");
    assertThatThrownBy(() -> new Mapping(
            "m",
            BundleFile.POINTS,
            Map.of("colour", "a"),
            Map.of(),
            Map.of(),
            null,
            null,
            Map.of()))
        .hasMessage("'colour' is no field of points");
  }

  @Test
  void columnsAreGuessedByNameAndContent() {
    assertThat(MappingGuess.guess(
            BundleFile.POINTS,
            List.of(
                new MappingGuess.Column("SessionID", List.of("42", "43")),
                new MappingGuess.Column("Client", List.of("pay-db")),
                new MappingGuess.Column("Level", List.of("full", "incremental")),
                new MappingGuess.Column("Start Time", List.of("24.11.2026 03:10")),
                new MappingGuess.Column("End Time", List.of("24.11.2026 04:10")),
                new MappingGuess.Column("Status", List.of("Success")),
                new MappingGuess.Column("Size (GB)", List.of("1.5")),
                new MappingGuess.Column("Remark", List.of("hello")))))
        .containsEntry("key", "SessionID")
        .containsEntry("resource", "Client")
        .containsEntry("form", "Level")
        .containsEntry("started", "Start Time")
        .containsEntry("available", "End Time")
        .containsEntry("outcome", "Status")
        .containsEntry("size", "Size (GB)")
        .doesNotContainValue("Remark");
  }

  @Test
  void aColumnWhoseContentSpeaksAgainstItIsNotTaken() {
    assertThat(MappingGuess.guess(
            BundleFile.COPIES, List.of(new MappingGuess.Column("Finished", List.of("yes", "no")))))
        .doesNotContainKey("finished");
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
