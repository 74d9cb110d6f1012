package hardproof.core.programmes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.MathContext;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class AssuranceTest {
  /** So many points that a sample is never a part that counts. */
  private static final int ENDLESS = 1_000_000;

  /** AICPA audit sampling table, 95 % confidence, no deviation expected; 95/99: success run, 299. */
  @ParameterizedTest
  @CsvSource({
    "0.98, 149",
    "0.97, 99",
    "0.96, 74",
    "0.95, 59",
    "0.94, 49",
    "0.93, 42",
    "0.92, 36",
    "0.91, 32",
    "0.90, 29",
    "0.85, 19",
    "0.80, 14",
    "0.99, 299"
  })
  void asManyCleanDrawsAsThePublishedTableSays(double share, int draws) {
    assertThat(new Assurance(0, 0, ENDLESS).stillNeeded(share)).hasValue(draws);
    assertThat(new Assurance(draws, 0, ENDLESS).atLeast()).isGreaterThanOrEqualTo(share);
    assertThat(new Assurance(draws - 1, 0, ENDLESS).atLeast()).isLessThan(share);
    assertThat(new Assurance(draws - 10, 0, ENDLESS).stillNeeded(share)).hasValue(10);
  }

  /** Hanley and Lippman-Hand 1983: with no failure in n, the upper bound of failing is about 3 ÷ n. */
  @Test
  void theRuleOfThreeHolds() {
    for (int n = 50; n <= 2000; n += 50) {
      assertThat(1 - new Assurance(n, 0, ENDLESS).atLeast())
          .isCloseTo(3.0 / n, within(0.05 * 3 / n));
    }
  }

  /** Clopper and Pearson's definition, by exact sums: at the bound so good a sample has a chance of 5 %. */
  @Test
  void atTheBoundTheSampleIsJustPossible() {
    for (int n : new int[] {1, 2, 5, 10, 30, 59, 100}) {
      for (int k = 0; k < n; k = k * 2 + 1) {
        double bound = new Assurance(n, k, ENDLESS).atLeast();
        assertThat(atLeastSoGood(n, n - k, bound))
            .as(n + " drawn, " + k + " failed")
            .isCloseTo(0.05, within(1e-9));
      }
    }
  }

  /** P(X ≥ good) of a binomial distribution, term by term. */
  private static double atLeastSoGood(int n, int good, double share) {
    BigDecimal p = new BigDecimal(share);
    BigDecimal sum = BigDecimal.ZERO;
    for (int x = good; x <= n; x++) {
      sum = sum.add(new BigDecimal(choose(n, x))
          .multiply(p.pow(x))
          .multiply(BigDecimal.ONE.subtract(p).pow(n - x), MathContext.DECIMAL128));
    }
    return sum.doubleValue();
  }

  private static BigInteger choose(int n, int k) {
    BigInteger ways = BigInteger.ONE;
    for (int i = 1; i <= k; i++) {
      ways = ways.multiply(BigInteger.valueOf(n - k + i)).divide(BigInteger.valueOf(i));
    }
    return ways;
  }

  /** The hypergeometric definition, by counting samples: one good point less could not be believed. */
  @Test
  void ofAFewPointsTheBoundIsTheFewestThatAreStillPossible() {
    for (int all : new int[] {1, 2, 3, 10, 26, 60}) {
      for (int n = 1; n <= all; n++) {
        for (int k = 0; k < n && k <= 3; k++) {
          Assurance sure = new Assurance(n, k, all);
          int good = (int) Math.round(sure.atLeast() * all);
          assertThat(sure.finite()).isEqualTo(n > 0.05 * all);
          if (sure.finite()) {
            assertThat(chance(all, good, n, n - k)).isGreaterThanOrEqualTo(0.05);
            assertThat(good == n - k || chance(all, good - 1, n, n - k) < 0.05)
                .as(n + " of " + all + ", " + k + " failed: " + good)
                .isTrue();
          }
        }
      }
    }
  }

  /** Of a sample of n from {@code all} with {@code good} good ones, to hold at least {@code least} good ones. */
  private static double chance(int all, int good, int n, int least) {
    BigInteger ways = BigInteger.ZERO;
    for (int x = least; x <= Math.min(n, good); x++) {
      if (n - x <= all - good) {
        ways = ways.add(choose(good, x).multiply(choose(all - good, n - x)));
      }
    }
    return new BigDecimal(ways)
        .divide(new BigDecimal(choose(all, n)), MathContext.DECIMAL128)
        .doubleValue();
  }

  @Test
  void whoDrilledEverythingIsSureOfEverything() {
    assertThat(new Assurance(26, 0, 26).atLeast()).isEqualTo(1);
    assertThat(new Assurance(26, 1, 26).atLeast()).isEqualTo(1 - 1.0 / 26);
  }

  @Test
  void nothingDrawnShowsNothing() {
    assertThat(new Assurance(0, 0, 10).atLeast()).isZero();
    assertThat(new Assurance(3, 3, 10).atLeast()).isZero();
    assertThat(new Assurance(0, 0, 0).atLeast()).isZero();
  }

  /** What failed stays failed: of ten points of which two are bad, 95 % are never shown. */
  @Test
  void whatCantBeShownAnyMoreIsSaid() {
    assertThat(new Assurance(4, 2, 10).stillNeeded(0.95)).isEmpty();
    assertThat(new Assurance(4, 2, 10).stillNeeded(0.8)).hasValue(6);
    assertThat(new Assurance(59, 0, ENDLESS).stillNeeded(0.95)).hasValue(0);
  }

  @ParameterizedTest
  @CsvSource({"-1, 0, 5", "3, -1, 5", "3, 4, 5", "6, 0, 5"})
  void whatCantBeIsRefused(int drawn, int failed, int population) {
    assertThatThrownBy(() -> new Assurance(drawn, failed, population))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageEndingWith("can't be");
  }
}
