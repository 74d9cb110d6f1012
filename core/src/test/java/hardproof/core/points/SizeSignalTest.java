package hardproof.core.points;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import org.apache.commons.statistics.descriptive.Median;
import org.junit.jupiter.api.Test;

class SizeSignalTest {
  /**
   * The 54 values that NIST/SEMATECH e-Handbook 1.3.5.17.3 takes from Rosner (1983), where its test
   * finds 6.01, 5.42 and 5.34 to be outliers; typed from memory.
   */
  private static final double[] ROSNER = {
    -0.25, 0.68, 0.94, 1.15, 1.20, 1.26, 1.26, 1.34, 1.38, 1.43, 1.49, 1.49, 1.55, 1.56, 1.58, 1.65,
    1.69, 1.70, 1.76, 1.77, 1.81, 1.91, 1.94, 1.96, 1.99, 2.06, 2.09, 2.10, 2.14, 2.15, 2.23, 2.24,
    2.26, 2.35, 2.37, 2.40, 2.47, 2.54, 2.62, 2.64, 2.90, 2.92, 2.92, 2.93, 3.21, 3.26, 3.30, 3.59,
    3.68, 4.30, 4.64, 5.34, 5.42, 6.01
  };

  @Test
  void findsTheOutliersOfThePublishedData() {
    double[] scores =
        Arrays.stream(ROSNER).map(v -> SizeSignal.of(ROSNER, v).score()).toArray();
    double[] outliers = java.util.stream.IntStream.range(0, ROSNER.length)
        .filter(i -> Math.abs(scores[i]) > 3.5)
        .mapToDouble(i -> ROSNER[i])
        .toArray();
    assertThat(outliers).containsExactly(5.34, 5.42, 6.01);
  }

  /** Median and MAD by a general library. */
  @Test
  void agreesWithAGeneralLibrary() {
    Random random = new Random(7);
    for (int round = 0; round < 200; round++) {
      double[] values = random.doubles(5 + random.nextInt(40), 1, 1000).toArray();
      double median = Median.withDefaults().evaluate(values.clone());
      double mad = Median.withDefaults()
          .evaluate(Arrays.stream(values).map(v -> Math.abs(v - median)).toArray());
      double[] scores =
          Arrays.stream(values).map(v -> SizeSignal.of(values, v).score()).toArray();
      for (int i = 0; i < values.length; i++) {
        assertThat(scores[i]).isEqualTo(0.6745 * (values[i] - median) / mad, within(1e-9));
      }
    }
  }

  @Test
  void whereMostAreEqualTheMeanDeviationTakesItsPlace() {
    double[] before = {10, 10, 10, 10, 10, 10, 4};
    // mean of |x − 10| is 6/7; the one that is judged is not among them
    assertThat(SizeSignal.of(before, 4).score()).isEqualTo(-6 / (1.253314 * 6 / 7), within(1e-9));
    assertThat(SizeSignal.of(new double[] {5, 5, 5}, 5).score()).isZero();
    assertThat(SizeSignal.of(new double[] {5, 5, 5}, 4).score()).isEqualTo(-SizeSignal.ODDEST);
    assertThat(SizeSignal.of(new double[] {5, 5, 5}, 4).sizes()).isEqualTo(3);
    assertThat(SizeSignal.of(before, 4).shareOfMedian(4)).isEqualTo(0.4, within(1e-12));
    assertThat(SizeSignal.of(new double[] {0, 0, 0}, 3).shareOfMedian(3)).isEqualTo(1);
  }

  /** Over the limit of the score and more than a tenth from the median; at either it is not odd. */
  @Test
  void oddIsFarFromTheUsual() {
    double[] steady = {1000, 1000, 1000, 1000, 1000, 1000};
    assertThat(SizeSignal.of(steady, 1100).odd(1100, 3.5)).isFalse();
    assertThat(SizeSignal.of(steady, 1101).odd(1101, 3.5)).isTrue();
    assertThat(SizeSignal.of(steady, 899).odd(899, 3.5)).isTrue();
    assertThat(SizeSignal.of(steady, 899).odd(899, SizeSignal.ODDEST)).isFalse();
    assertThat(SizeSignal.of(new double[6], 5).odd(5, 3.5)).as("usually empty").isFalse();
  }
}
