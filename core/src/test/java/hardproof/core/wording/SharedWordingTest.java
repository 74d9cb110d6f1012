package hardproof.core.wording;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvFileSource;

/** What the page words itself it words as the core does: web/src/wording/format.test.ts reads the same cases. */
class SharedWordingTest {
  private static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");

  @ParameterizedTest
  @CsvFileSource(resources = "/wording-cases.csv", delimiter = ';', numLinesToSkip = 1)
  void theCoreWordsItSo(String what, String given, String words) {
    String said = switch (what) {
      case "duration" -> Wording.duration(Duration.ofMillis(Long.parseLong(given)));
      case "typed" -> Wording.typed(Duration.ofMillis(Long.parseLong(given)));
      case "bytes" -> Wording.bytes(Long.parseLong(given));
      case "share" -> Wording.share(Double.parseDouble(given));
      case "time" -> Wording.time(Instant.parse(given), NOW);
      default -> throw new IllegalArgumentException(what);
    };
    assertThat(said).isEqualTo(words);
  }
}
