package hardproof.server.alerts;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WatchTest {
  private static Instant over(String from, String until, String zone, String at) {
    return new Watch.Quiet(LocalTime.parse(from), LocalTime.parse(until), ZoneId.of(zone))
        .over(Instant.parse(at));
  }

  /** Within a day, over midnight, and at both ends: the begin is quiet, the end is not. */
  @ParameterizedTest
  @CsvSource({
    "12:00, 13:00, 2026-11-24T11:59:59Z, 2026-11-24T11:59:59Z",
    "12:00, 13:00, 2026-11-24T12:00:00Z, 2026-11-24T13:00:00Z",
    "12:00, 13:00, 2026-11-24T13:00:00Z, 2026-11-24T13:00:00Z",
    "22:00, 06:30, 2026-11-24T21:59:00Z, 2026-11-24T21:59:00Z",
    "22:00, 06:30, 2026-11-24T22:00:00Z, 2026-11-25T06:30:00Z",
    "22:00, 06:30, 2026-11-25T06:29:00Z, 2026-11-25T06:30:00Z",
    "22:00, 06:30, 2026-11-25T06:30:00Z, 2026-11-25T06:30:00Z",
  })
  void nothingIsSentInQuietHours(String from, String until, String at, String sent) {
    assertThat(over(from, until, "UTC", at)).isEqualTo(Instant.parse(sent));
  }

  /** Oslo goes from +01:00 to +02:00 on 29 March 2026 at 01:00 UTC (EU Directive 2000/84/EC), and back on 25 October. */
  @Test
  void quietHoursAreThoseOfTheZoneAlsoWhenItsClocksChange() {
    assertThat(over("22:00", "06:00", "Europe/Oslo", "2026-03-28T22:00:00Z"))
        .isEqualTo(Instant.parse("2026-03-29T04:00:00Z"));
    assertThat(over("22:00", "06:00", "Europe/Oslo", "2026-10-24T22:00:00Z"))
        .isEqualTo(Instant.parse("2026-10-25T05:00:00Z"));
    // Half past two is not there on that day.
    assertThat(over("01:00", "02:30", "Europe/Oslo", "2026-03-29T00:30:00Z"))
        .isEqualTo(Instant.parse("2026-03-29T01:30:00Z"));
  }
}
