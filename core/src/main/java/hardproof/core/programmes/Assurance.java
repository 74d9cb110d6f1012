package hardproof.core.programmes;

import java.util.OptionalInt;
import org.apache.commons.statistics.distribution.BetaDistribution;
import org.apache.commons.statistics.distribution.HypergeometricDistribution;

/**
 * How sure drills that were drawn at random make us of all the recovery points they were drawn from.
 *
 * @param drawn points that were drawn and drilled, each once
 * @param failed of these, those that could not be restored
 * @param population points they were drawn from; at least {@code drawn}
 */
public record Assurance(int drawn, int failed, int population) {
  /** The confidence of every statement: common practice of sampling in audits. */
  public static final double CONFIDENCE = 0.95;

  /** Above this share of the population, that it is finite counts: common practice of sampling. */
  static final double FINITE_FROM = 0.05;

  /** What rounding may add; a chance of just 5 % is taken for possible, which claims less. */
  private static final double ROUNDING = 1e-12;

  public Assurance {
    if (drawn < 0 || failed < 0 || failed > drawn || population < drawn) {
      throw new IllegalArgumentException(
          failed + " failed of " + drawn + " drawn of " + population + " can't be");
    }
  }

  /** Whether the sample is so large a part of the population that its size counts. */
  public boolean finite() {
    return drawn > FINITE_FROM * population;
  }

  /**
   * With {@link #CONFIDENCE}, at least this share of the population can be restored. Exact one-sided bound: of
   * Clopper and Pearson (Biometrika 26, 1934); where the sample is {@link #finite}, by the hypergeometric
   * distribution.
   *
   * @return between 0 and 1; 0 where nothing was drawn
   */
  public double atLeast() {
    if (drawn == failed) {
      return 0;
    }
    if (drawn == population) {
      return 1 - (double) failed / population;
    }
    return finite() ? (double) goodAtLeast() / population : clopperPearson(drawn, failed);
  }

  private static double clopperPearson(int drawn, int failed) {
    return BetaDistribution.of(drawn - failed, failed + 1.0)
        .inverseCumulativeProbability(1 - CONFIDENCE);
  }

  /** The fewest good points among all with which so good a sample still has a chance of more than 5 %. */
  private int goodAtLeast() {
    int good = drawn - failed;
    int low = good;
    int high = population - failed;
    while (low < high) {
      int middle = (low + high) >>> 1;
      boolean possible =
          HypergeometricDistribution.of(population, middle, drawn).survivalProbability(good - 1)
              > 1 - CONFIDENCE - ROUNDING;
      if (possible) {
        high = middle;
      } else {
        low = middle + 1;
      }
    }
    return low;
  }

  /**
   * How many more points have to be drawn, all of them good, until at least {@code share} is shown.
   *
   * @return 0 when it is shown; empty when no draw from this population can show it any more
   */
  public OptionalInt stillNeeded(double share) {
    int left = population - drawn;
    if (share > 1 || 1 - (double) failed / population < share) {
      return OptionalInt.empty();
    }
    int low = 0;
    int high = 0;
    while (more(high).atLeast() < share) {
      low = high + 1;
      high = Math.min(left, 2 * high + 1);
    }
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (more(middle).atLeast() >= share) {
        high = middle;
      } else {
        low = middle + 1;
      }
    }
    return OptionalInt.of(low);
  }

  private Assurance more(int draws) {
    return new Assurance(drawn + draws, failed, population);
  }
}
