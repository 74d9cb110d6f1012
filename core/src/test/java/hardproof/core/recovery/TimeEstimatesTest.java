package hardproof.core.recovery;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import hardproof.core.estate.Kind;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** How long drills will take. Invented data; the line is checked against lines that are known beforehand. */
class TimeEstimatesTest {
  private static Given took(Given g, String point, Duration took, long bytes) {
    return g.drill(point, Method.FULL_RESTORE, true, 1).took(took, bytes);
  }

  private static TimeEstimate estimate(Given g, String resource, long bytes) {
    return new TimeEstimates(g.at(NOW))
        .of(g.at(NOW).resource(resource), "near", Method.FULL_RESTORE, bytes)
        .orElseThrow();
  }

  @Test
  void ofTheSameSizeItTakesAsLongAsBefore() {
    Given g = Given.estate().point("a", 5);
    for (int minutes = 1; minutes <= 20; minutes++) {
      took(g, "a", Duration.ofMinutes(minutes), 1000);
    }
    TimeEstimate e = estimate(g, "r", 1000);
    assertThat(e.median()).isEqualTo(Duration.ofSeconds(630));
    assertThat(e.p95()).isEqualTo(Duration.ofMinutes(19));
    assertThat(e.extrapolated()).isFalse();
    assertThat(e.words())
        .isEqualTo("about 10 m, 19 m at most in 19 of 20, by 20 of its own drills");
  }

  /** The store is said to read 100 MB a second: 500 MB more are five seconds more. */
  @Test
  void whatIsMoreThanWasMeasuredIsReadAsFastAsTheStoreIsSaidToRead() {
    Given g = took(Given.estate().point("a", 5), "a", Duration.ofSeconds(60), 500_000_000);
    TimeEstimate e = estimate(g, "r", 1_000_000_000);
    assertThat(e.median()).isEqualTo(Duration.ofSeconds(65));
    assertThat(e.extrapolated()).isTrue();
    assertThat(e.words()).endsWith("by 1 of its own drills, scaled from 500 MB to 1.00 GB");
    g.theStore("near", "throughput", "");
    assertThat(estimate(g, "r", 1_000_000_000).median()).isEqualTo(Duration.ofSeconds(120));
    assertThat(estimate(g, "r", 100).median()).isEqualTo(Duration.ofSeconds(60));
  }

  /** Sizes that differ tell what is fixed and what a byte takes: 30 s and 2 s a million. */
  @Test
  void ofDifferentSizesTheFixedPartIsToldFromTheRest() {
    Given g = Given.estate().point("a", 5);
    for (int millions = 1; millions <= 9; millions += 2) {
      took(g, "a", Duration.ofSeconds(30 + 2 * millions), millions * 1_000_000L);
    }
    took(g, "a", Duration.ofHours(2), 5_000_000); // One night the network stood still.
    TimeEstimate e = estimate(g, "r", 20_000_000);
    assertThat(e.median()).isEqualTo(Duration.ofSeconds(70));
    assertThat(e.p95()).isGreaterThan(Duration.ofHours(2));
  }

  @Test
  void whatWasNeverDrilledGoesByThoseOfItsKindFromTheSameStore() {
    Given g = Given.estate().point("a", 5);
    g.resources.add(Given.resource("s", Kind.FILE_SHARE, "w"));
    g.resources.add(Given.resource("v", Kind.VOLUME, "w"));
    took(g, "a", Duration.ofSeconds(90), 1000);
    assertThat(estimate(g, "s", 1000).source()).isEqualTo(TimeEstimate.Source.LIKE);
    assertThat(estimate(g, "s", 1000).median()).isEqualTo(Duration.ofSeconds(90));
    TimeEstimate other = estimate(g, "v", 6_000_000_000L);
    assertThat(other.source()).isEqualTo(TimeEstimate.Source.STORE);
    assertThat(other.median()).isEqualTo(Duration.ofMinutes(1));
    assertThat(other.words()).isEqualTo("about 1 m, by what its store is said to read");
    g.theStore("near", "throughput", "");
    assertThat(new TimeEstimates(g.at(NOW))
            .of(g.at(NOW).resource("v"), "near", Method.FULL_RESTORE, 1000))
        .isEmpty();
  }

  @Test
  void aDrillThatFailedSaysNothingOfTime() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, false, 1);
    assertThat(estimate(g, "r", 1000).source()).isEqualTo(TimeEstimate.Source.STORE);
  }

  /** Any line is found through any points on it, though a quarter of them lie anywhere above it. */
  @Test
  void theLineIsFoundThroughOddMeasurements() {
    Random random = new Random(13);
    for (int trial = 0; trial < 200; trial++) {
      double fixed = random.nextInt(100_000);
      double perByte = random.nextInt(1, 1000) / 1e3;
      List<Measured> all = new ArrayList<>();
      for (int i = 1; i <= 12; i++) {
        long bytes = 10_000L * i;
        long odd = i % 4 == 0 ? random.nextInt(1_000_000) : 0;
        all.add(new Measured(bytes, Math.round(fixed + perByte * bytes) + odd));
      }
      SizeLine line = SizeLine.through(all);
      assertThat(line.perByte()).isCloseTo(perByte, within(perByte * 0.6 + 0.01));
      assertThat(line.at(60_000)).isCloseTo(fixed + perByte * 60_000, within(200_000.0));
      assertThat(line.fixed()).isNotNegative();
    }
  }

  @Test
  void sizesThatAreAlikeTellNothingOfTheParts() {
    assertThat(SizeLine.tells(List.of(new Measured(1000, 1), new Measured(1999, 2))))
        .isFalse();
    assertThat(SizeLine.tells(List.of(new Measured(1000, 1), new Measured(2000, 2))))
        .isTrue();
    assertThat(SizeLine.tells(List.of(new Measured(0, 1), new Measured(2000, 2))))
        .isFalse();
    SizeLine exact = SizeLine.through(List.of(new Measured(1000, 5), new Measured(2000, 7)));
    assertThat(exact).isEqualTo(new SizeLine(3, 0.002));
  }
}
