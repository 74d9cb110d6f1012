package hardproof.core.points;

import java.util.Arrays;

/**
 * How far a size is from those before it: the modified z-score 0.6745·(x − median) ÷ MAD of Iglewicz
 * and Hoaglin (NIST/SEMATECH e-Handbook 1.3.5.17), MAD being the median of the absolute deviations
 * from the median. Where more than half of the sizes are equal MAD is 0; then the mean absolute
 * deviation takes its place, with 1.253314 (the square root of π/2) to make it comparable to a standard
 * deviation, as Iglewicz and Hoaglin advise. Where that is 0 too, all sizes are equal and the score
 * is 0.
 *
 * @param score signed; negative when smaller than usual
 */
public record SizeSignal(double score, double median, int sizes) {
  /** With fewer sizes than this nothing is said: two of five may be odd by chance. */
  public static final int LEAST = 6;

  /**
   * A change by less than this share of the median is never called odd: where sizes hardly ever
   * differ, any difference has a high score (our own limit).
   */
  public static final double LEAST_CHANGE = 0.1;

  private static final double TO_SIGMA = 0.6745;
  private static final double MEAN_TO_SIGMA = 1.253314;

  /**
   * @param sizes all that are compared, the judged one last; at least one
   */
  public static SizeSignal of(double[] sizes) {
    return new SizeSignal(scores(sizes)[sizes.length - 1], median(sizes), sizes.length);
  }

  /** The score of every value. */
  public static double[] scores(double[] values) {
    double median = median(values);
    double[] deviations = Arrays.stream(values).map(v -> Math.abs(v - median)).toArray();
    double mad = median(deviations);
    double mean = Arrays.stream(deviations).average().orElse(0);
    return Arrays.stream(values)
        .map(v -> mad > 0
            ? TO_SIGMA * (v - median) / mad
            : mean > 0 ? (v - median) / (MEAN_TO_SIGMA * mean) : 0)
        .toArray();
  }

  private static double median(double[] values) {
    double[] sorted = values.clone();
    Arrays.sort(sorted);
    int n = sorted.length;
    return n % 2 == 1 ? sorted[n / 2] : (sorted[n / 2 - 1] + sorted[n / 2]) / 2;
  }

  /** The judged size as a share of the median; 1 where the median is 0. */
  public double shareOfMedian(double size) {
    return median == 0 ? 1 : size / median;
  }
}
