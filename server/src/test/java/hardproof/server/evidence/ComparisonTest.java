package hardproof.server.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ComparisonTest {
  private static byte[] bytes(String text) {
    return text.replace('/', '\n').getBytes(StandardCharsets.UTF_8);
  }

  /** Written some bytes at a time, as what is compared is. */
  private static Comparison compared(String theirs, String ours, int atOnce) throws IOException {
    Comparison comparison = new Comparison(new ByteArrayInputStream(bytes(theirs)));
    byte[] written = bytes(ours);
    for (int at = 0; at < written.length; at += atOnce) {
      comparison.write(written, at, Math.min(atOnce, written.length - at));
    }
    comparison.close();
    return comparison;
  }

  /** Slashes are line ends. */
  @ParameterizedTest
  @CsvSource({
    "a/bc/d, a/bX/d, 2, bc, bX",
    "a/bc/d, a/bc, 2, bc, bc",
    "a, a/more, 1, a, a",
    "Xa, a, 1, Xa, a",
    "a/b/, a/b/c, 3, '', c",
    "ü/ä, ü/ö, 2, ä, ö"
  })
  void theFirstDifferenceIsNamedByItsLine(
      String theirs, String ours, long number, String their, String our) throws IOException {
    for (int atOnce = 1; atOnce < 6; atOnce++) {
      Comparison comparison = compared(theirs, ours, atOnce);
      assertThat(comparison.differs()).isTrue();
      Comparison.Line line = comparison.line(new ByteArrayInputStream(bytes(theirs)));
      assertThat(line.number()).isEqualTo(number);
      assertThat(line.theirs() == null ? "" : line.theirs()).isEqualTo(their);
      assertThat(line.ours() == null ? "" : line.ours()).isEqualTo(our);
    }
  }

  @Test
  void whatIsTheSameDoesNotDiffer() throws IOException {
    assertThat(compared("a/bc/d", "a/bc/d", 2).differs()).isFalse();
    assertThat(compared("", "", 1).differs()).isFalse();
  }

  @Test
  void aLongLineIsCut() throws IOException {
    String long1 = "x".repeat(1000);
    Comparison.Line line =
        compared(long1 + "a", long1 + "b", 64).line(new ByteArrayInputStream(bytes(long1 + "a")));
    assertThat(line.theirs()).hasSize(161).endsWith("…");
  }
}
