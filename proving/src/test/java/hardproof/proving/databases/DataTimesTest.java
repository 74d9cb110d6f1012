package hardproof.proving.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class DataTimesTest {
  @ParameterizedTest
  @CsvSource({
    "2026-11-24T09:00:00Z, 2026-11-24T09:00:00Z",
    "2026-11-24T10:00:00+01:00, 2026-11-24T09:00:00Z",
    "2026-11-24 09:00:00.123, 2026-11-24T09:00:00.123Z",
    "2026-11-24 09:00, 2026-11-24T09:00:00Z",
    // As PostgreSQL writes a timestamp with time zone (manual, "Date/Time Output").
    "2026-11-24 09:00:00+00, 2026-11-24T09:00:00Z",
    "2026-11-24 14:30:00.5+05:30, 2026-11-24T09:00:00.5Z",
    "2026-11-24 01:00:00-08, 2026-11-24T09:00:00Z",
    "2026-11-24, 2026-11-24T00:00:00Z",
    "0, 1970-01-01T00:00:00Z",
    "-1, 1969-12-31T23:59:59Z",
    "1764000000, 2025-11-24T16:00:00Z",
    "1764000000.9, 2025-11-24T16:00:00Z",
    // The last second and the first millisecond count.
    "99999999999, 5138-11-16T09:46:39Z",
    "100000000000, 1973-03-03T09:46:40Z",
    "1764000000250, 2025-11-24T16:00:00.250Z",
    "' 2026-11-24 ', 2026-11-24T00:00:00Z"
  })
  void timesOfDatabasesAreRead(String text, Instant time) {
    assertThat(DataTimes.read(text)).isEqualTo(time);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "",
        "never",
        "2026-02-30",
        "2026-11-24 25:00:00",
        "24.11.2026",
        "1234567890123456",
        "12:00"
      })
  void whatIsNoTimeIsNone(String text) {
    assertThat(DataTimes.read(text)).isNull();
  }
}
