package hardproof.core.wording;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WordingTest {
  @ParameterizedTest
  @CsvSource({
    "PT0S, 0 s",
    "PT0.250S, 250 ms",
    "PT59.9S, 59 s",
    "PT60S, 1 m",
    "PT9M59S, 9 m 59 s",
    "PT10M30S, 10 m",
    "PT6H30M, 6 h 30 m",
    "PT47H59M, 47 h 59 m",
    "PT48H, 2 d",
    "PT98H, 4 d 02 h",
    "-PT2H30M, -2 h 30 m"
  })
  void durations(String iso, String words) {
    assertThat(Wording.duration(Duration.parse(iso))).isEqualTo(words);
  }

  @Test
  void timesNameTheYearOnlyWhenItIsAnother() {
    Instant now = Instant.parse("2026-01-02T00:00:00Z");
    assertThat(Wording.time(Instant.parse("2026-01-01T03:10:59Z"), now)).isEqualTo("1 Jan 03:10");
    assertThat(Wording.time(Instant.parse("2025-12-31T23:59:00Z"), now))
        .isEqualTo("31 Dec 2025 23:59");
  }

  @ParameterizedTest
  @CsvSource({
    "0, 0 B",
    "999, 999 B",
    "1000, 1.00 kB",
    "12345, 12.3 kB",
    "123456789, 123 MB",
    "999999999999, 1.00 TB"
  })
  void bytes(long bytes, String words) {
    assertThat(Wording.bytes(bytes)).isEqualTo(words);
  }

  @Test
  void sharesAreNeverRoundedUp() {
    assertThat(Wording.share(0.99999)).isEqualTo("99.99 %");
    assertThat(Wording.share(1)).isEqualTo("100.00 %");
    assertThat(Wording.list(List.of("a", "b", "c"))).isEqualTo("a, b and c");
    assertThat(Wording.count(1, "copy", "copies")).isEqualTo("1 copy");
  }
}
