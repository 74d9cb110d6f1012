package hardproof.core.wording;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Random;
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

  /** The same as the formatters of the platform, which take ten times as long. */
  @Test
  void figuresAndTimesReadAsThePlatformFormatsThem() {
    Random random = new Random(7);
    DateTimeFormatter formatter =
        DateTimeFormatter.ofPattern("d MMM yyyy HH:mm", Locale.ENGLISH).withZone(ZoneOffset.UTC);
    Instant anotherYear = Instant.parse("1904-01-01T00:00:00Z");
    for (int i = 0; i < 20_000; i++) {
      double value = random.nextDouble() * Math.pow(10, random.nextInt(9));
      int decimals = random.nextInt(3);
      assertThat(Wording.fixed(value, decimals))
          .isEqualTo(String.format(Locale.ROOT, "%." + decimals + "f", value));
      Instant at = Instant.ofEpochMilli(random.nextLong() % 8_000_000_000_000L);
      if (at.atZone(ZoneOffset.UTC).getYear() != 1904) {
        assertThat(Wording.time(at, anotherYear)).isEqualTo(formatter.format(at));
      }
    }
    assertThat(Wording.fixed(1005 / 1000.0, 2)).isEqualTo("1.01");
    assertThat(Wording.fixed(Double.POSITIVE_INFINITY, 2)).isEqualTo("Infinity");
  }
}
