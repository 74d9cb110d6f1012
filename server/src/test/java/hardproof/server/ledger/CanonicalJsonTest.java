package hardproof.server.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class CanonicalJsonTest {
  /** RFC 8785, section 3.2.2 and 3.2.3: order of properties by UTF-16 code units, and the strings of the sample. */
  @Test
  void orderAndEscapesOfTheStandard() {
    assertThat(CanonicalJson.of(Map.of(
            "\u20ac", "Euro Sign",
            "\r", "Carriage Return",
            "\ufb33", "Hebrew Letter Dalet With Dagesh",
            "1", "One",
            "\ud83d\ude00", "Emoji: Grinning Face",
            "\u0080", "Control",
            "\u00f6", "Latin Small Letter O With Diaeresis")))
        .isEqualTo("{\"\\r\":\"Carriage Return\",\"1\":\"One\",\"\u0080\":\"Control\","
            + "\"\u00f6\":\"Latin Small Letter O With Diaeresis\",\"\u20ac\":\"Euro Sign\","
            + "\"\ud83d\ude00\":\"Emoji: Grinning Face\","
            + "\"\ufb33\":\"Hebrew Letter Dalet With Dagesh\"}");
    assertThat(CanonicalJson.of(Map.of("string", "\u20ac$\017\nA'B\"\\\\\"/")))
        .isEqualTo("{\"string\":\"\u20ac$\\u000f\\nA'B\\\"\\\\\\\\\\\"/\"}");
  }

  /** What others would read otherwise than we wrote it. */
  @Test
  void whatIsNotTheSameToEverybodyIsWrittenSafely() {
    assertThat(CanonicalJson.of(Map.of("n", 1L << 53, "more", (1L << 53) + 1)))
        .isEqualTo("{\"more\":\"9007199254740993\",\"n\":9007199254740992}");
    assertThat(CanonicalJson.of(Map.of("half \ud83d", List.of("x\ude00y"))))
        .isEqualTo("{\"half \ufffd\":[\"x\ufffdy\"]}");
  }
}
