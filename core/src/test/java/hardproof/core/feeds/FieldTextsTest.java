package hardproof.core.feeds;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class FieldTextsTest {
  /** Outside check: java.time. The borders are those of a year with four digits, and of a day. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "1970-01-01T00:00:00Z",
        "1969-12-31T23:59:59Z",
        "2028-02-29T23:59:59Z",
        "2026-11-29T12:30:00.007Z",
        "2026-11-29T12:30:00.000000001Z",
        "0000-01-01T00:00:00Z",
        "-0001-12-31T23:59:59Z",
        "9999-12-31T23:59:59Z",
        "+10000-01-01T00:00:00Z"
      })
  void aTimeIsWrittenAsEverywhere(String text) {
    assertThat(FieldTexts.instant(Instant.parse(text))).isEqualTo(text);
  }

  @Test
  void anyTimeIsWrittenAsEverywhere() {
    Random random = new Random(17);
    for (int i = 0; i < 20_000; i++) {
      Instant some = Instant.ofEpochSecond(
          random.nextLong(-80_000_000_000L, 300_000_000_000L),
          random.nextInt(4) == 0 ? random.nextInt(1_000_000_000) : 0);
      assertThat(FieldTexts.instant(some)).isEqualTo(some.toString());
    }
  }
}
