package hardproof.core.points;

import java.util.Arrays;

/**
 * How far a size is from those before it: the modified z-score 0.6745·(x − median) ÷ MAD of Iglewicz
 * and Hoaglin (NIST/SEMATECH e-Handbook 1.3.5.17), MAD being the median of the absolute deviations
 * from the median. Where more than half of the sizes are equal MAD is 0; then the mean absolute
 * deviation takes its place, with 1.253314 (the square root of π/2) to make it comparable to a standard
 * deviation, as Iglewicz and Hoaglin advise. Where that is 0 too, all sizes are equal: any other is as
 * odd as can be.
 *
 * @param score signed; negative when smaller than usual
 * @param spread what the difference from the median was divided by: MAD ÷ 0.6745 or 1.253314 × the mean
 *     absolute deviation; 0 where all sizes are equal
 */
public record SizeSignal(double score, double median, double spread, int sizes) {
  /** With fewer sizes than this nothing is said: two of five may be odd by chance. */
  public static final int LEAST = 6;

  /**
   * A change by less than this share of the median is never called odd: where sizes hardly ever
   * differ, any difference has a high score (our own limit).
   */
  public static final double LEAST_CHANGE = 0.1;

  private static final double TO_SIGMA = 0.6745;
  private static final double MEAN_TO_SIGMA = 1.253314;

  /** The score of a size that differs from those before it, which are all alike. */
  public static final double ODDEST = 1000;

  /**
   * How a size stands among those before it; it is not among them itself, or it would make itself usual.
   *
   * @param before at least one
   */
  public static SizeSignal of(double[] before, double judged) {
    double median = median(before);
    double[] deviations = Arrays.stream(before).map(v -> Math.abs(v - median)).toArray();
    double mad = median(deviations);
    double mean = Arrays.stream(deviations).average().orElse(0);
    double spread = mad > 0 ? mad / TO_SIGMA : MEAN_TO_SIGMA * mean;
    double score = spread > 0 ? (judged - median) / spread : Math.signum(judged - median) * ODDEST;
    return new SizeSignal(
        Math.max(-ODDEST, Math.min(ODDEST, score)), median, spread, before.length);
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

  /**
   * Whether the judged size is odd; never where nothing is what is usual.
   *
   * @param limit of the score; Iglewicz and Hoaglin advise 3.5
   */
  public boolean odd(double judged, double limit) {
    return median > 0
        && Math.abs(score) > limit
        && Math.abs(judged - median) > LEAST_CHANGE * median;
  }
}
