package hardproof.core.programmes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.programmes.Draw.Candidate;
import hardproof.core.wording.WrongValue;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class DrawTest {
  private static final String SEED =
      Draw.seed("nightly", Instant.parse("2026-11-24T22:00:00Z"), "0".repeat(64));

  private static final List<Candidate> SOME = List.of(
      new Candidate("payroll-db", "payroll-db-1124"),
      new Candidate("payroll-db", "payroll-db-1123"),
      new Candidate("Łódź files", "łódź-1"),
      new Candidate("a", "b's \"quoted\" $HOME `x` \\ point"),
      new Candidate("a", "  kept blanks "),
      new Candidate("crew-mail", "crew-mail-7"));

  /** Outside value: coreutils' sha256sum and sort, by the very line of the document. */
  @Test
  void anOutsiderDrawsTheSameByTheLineInTheDocument(@TempDir Path folder) throws Exception {
    Draw draw = Draw.of(SEED, SOME);
    Files.writeString(folder.resolve("candidates.txt"), draw.list(), StandardCharsets.UTF_8);
    String ranks = run(folder, documented());
    assertThat(ranks.lines().toList())
        .isEqualTo(
            draw.ranked().stream().map(c -> draw.rank(c) + "\t" + c.line()).toList());
    assertThat(run(folder, "sha256sum < candidates.txt")).startsWith(draw.digest());
  }

  /** The line that docs/drills.md gives, with the seed of this test. */
  private static String documented() throws IOException {
    String doc = Files.readString(Path.of("../docs/drills.md"));
    Matcher block = Pattern.compile("```draw\\n(.*?)```", Pattern.DOTALL).matcher(doc);
    assertThat(block.find()).as("docs/drills.md has the line").isTrue();
    return "seed=" + SEED + "\n" + block.group(1);
  }

  private static String run(Path folder, String script) throws Exception {
    Process shell = new ProcessBuilder("bash", "-c", script)
        .directory(folder.toFile())
        .redirectErrorStream(true)
        .start();
    String said = new String(shell.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(shell.waitFor()).as(said).isZero();
    return said;
  }

  @Test
  void theOrderInWhichCandidatesComeDoesNotMatter() {
    List<Candidate> shuffled = new ArrayList<>(SOME);
    Collections.shuffle(shuffled, new Random(7));
    assertThat(Draw.of(SEED, shuffled)).isEqualTo(Draw.of(SEED, SOME));
  }

  @Test
  void anotherCandidateOrAnotherSeedIsAnotherDraw() {
    Draw draw = Draw.of(SEED, SOME);
    assertThat(Draw.of(SEED, SOME.subList(1, SOME.size())).digest()).isNotEqualTo(draw.digest());
    Draw other =
        Draw.of(Draw.seed("nightly", Instant.parse("2026-11-25T22:00:00Z"), "0".repeat(64)), SOME);
    assertThat(other.digest()).as("the same list").isEqualTo(draw.digest());
    assertThat(other.ranked()).isNotEqualTo(draw.ranked());
  }

  @Test
  void aResourcesPointIsItsLowestRank() {
    Draw draw = Draw.of(SEED, SOME);
    String lowest = draw.ranked().stream()
        .filter(c -> c.resource().equals("payroll-db"))
        .findFirst()
        .orElseThrow()
        .point();
    assertThat(draw.of("payroll-db").orElseThrow().point()).isEqualTo(lowest);
    assertThat(draw.of("nobody")).isEmpty();
    assertThat(Draw.of(SEED, List.of()).ranked()).isEmpty();
  }

  /** Each of two points is drawn by about half of a thousand seeds: 500 ± 4 standard deviations of 15.8. */
  @Test
  void noPointIsFavoured() {
    int first = 0;
    for (int night = 0; night < 1000; night++) {
      String seed = Draw.seed("p", Instant.EPOCH.plusSeconds(86_400L * night), "");
      first += Draw.of(seed, SOME.subList(0, 2)).of("payroll-db").orElseThrow().equals(SOME.get(0))
          ? 1
          : 0;
    }
    assertThat(first).isBetween(437, 563);
  }

  @ParameterizedTest
  @ValueSource(strings = {"a\tb", "a\nb", "a\rb"})
  void aKeyThatWouldBreakTheListIsRefused(String key) {
    assertThatThrownBy(() -> new Candidate("r", key))
        .isInstanceOf(WrongValue.class)
        .hasMessageContaining("holds a tab or a line break");
    assertThatThrownBy(() -> new Candidate(key, "p")).isInstanceOf(WrongValue.class);
  }
}
