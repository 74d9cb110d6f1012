package hardproof.proving.checks;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.time.Duration;
import java.util.Random;
import java.util.regex.PatternSyntaxException;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PathPatternTest {
  private static final String[] PIECES = {
    "*", "**", "?", "/", "a", "b", "c", ".", "-", "[a-c]", "[!b]", "[+-9]", "{a,b/c}", "\\*", "(",
    "+", "ü", ","
  };
  private static final String LETTERS = "aabbcc//.-*(+ü,7";

  /** The peer: the JDK's own patterns, of java.nio.file.FileSystem.getPathMatcher. */
  @Test
  void itMatchesWhatTheJdkMatches() {
    Random random = new Random(5);
    int matched = 0;
    for (int i = 0; i < 20_000; i++) {
      StringBuilder pattern = new StringBuilder();
      StringBuilder path = new StringBuilder();
      for (int n = random.nextInt(5); n >= 0; n--) {
        pattern.append(PIECES[random.nextInt(PIECES.length)]);
      }
      for (int n = random.nextInt(6); n >= 0; n--) {
        path.append(LETTERS.charAt(random.nextInt(LETTERS.length())));
      }
      String text = pattern.toString().replace("***", "**");
      PathMatcher jdk;
      try {
        jdk = FileSystems.getDefault().getPathMatcher("glob:" + text);
      } catch (PatternSyntaxException e) {
        continue;
      }
      Path of = Path.of(path.toString());
      boolean expected = jdk.matches(of);
      matched += expected ? 1 : 0;
      assertThat(PathPattern.of(text).matches(of)).as(text + " on " + of).isEqualTo(expected);
    }
    assertThat(matched).isGreaterThan(500);
  }

  @Test
  void manyStarsTakeNoTime() {
    PathPattern pattern = PathPattern.of("*a".repeat(30) + "x");
    Path path = Path.of("a".repeat(200));
    assertThat(Assertions.assertTimeoutPreemptively(
            Duration.ofSeconds(5), () -> pattern.matches(path)))
        .isFalse();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{a,{b}} | has a { within a {",
        "{a,b | has a { without its }",
        "[a | has a [ without its ]",
        "[ | has a [ without its ]",
        "[] | has nothing between [ and ]",
        "[a/b] | names / between [ and ]",
        "[b-a] | has a range that ends before it begins",
        "a\\ | ends with a backslash",
      })
  void whatIsNoPatternIsRefused(String text, String why) {
    assertThatThrownBy(() -> PathPattern.of(text))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageStartingWith("\"" + text + "\" is no pattern of paths: it " + why);
  }
}
