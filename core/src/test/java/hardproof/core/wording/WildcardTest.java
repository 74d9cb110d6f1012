package hardproof.core.wording;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import java.util.Random;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;

class WildcardTest {
  /** Against the library's own regular expressions, over every kind of small pattern and text. */
  @Test
  void agreesWithARegularExpression() {
    Random random = new Random(3);
    int matches = 0;
    for (int i = 0; i < 200_000; i++) {
      String pattern = some(random, "ab*", 7);
      String text = some(random, "ab", 9);
      String regex = "\\Q" + pattern.replace("*", "\\E.*\\Q") + "\\E";
      boolean expected = Pattern.compile(regex, Pattern.DOTALL).matcher(text).matches();
      assertThat(Wildcard.matches(pattern, text)).as("%s on %s", pattern, text).isEqualTo(expected);
      matches += expected ? 1 : 0;
    }
    assertThat(matches).isGreaterThan(10_000);
  }

  private static String some(Random random, String of, int most) {
    StringBuilder text = new StringBuilder();
    for (int i = random.nextInt(most + 1); i > 0; i--) {
      text.append(of.charAt(random.nextInt(of.length())));
    }
    return text.toString();
  }

  @Test
  void nothingInItIsMoreThanALetterButTheStar() {
    for (String odd : List.of("a.c", "\\E", "\\Qx\\E", "[a]", "(", "a|b", "^$", "\n", "")) {
      assertThat(Wildcard.matches(odd, odd)).as(odd).isTrue();
      assertThat(Wildcard.matches("*" + odd + "*", "x" + odd + "y")).as(odd).isTrue();
    }
    assertThat(Wildcard.matches("a.c", "abc")).isFalse();
  }

  /** Six stars on a name of sixty letters once took 25 s; here are six hundred. */
  @Test
  void manyStarsTakeNoTime() {
    String name = "a".repeat(60_000);
    Assertions.assertTimeoutPreemptively(Duration.ofSeconds(5), () -> {
      for (int i = 0; i < 100; i++) {
        assertThat(Wildcard.matches("*a".repeat(600) + "b", name)).isFalse();
        assertThat(Wildcard.matches("*a".repeat(600) + "*", name)).isTrue();
      }
    });
  }
}
