package hardproof.core.recovery;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A fixed part and a part for each byte, of measurements of different sizes: the line of Theil and Sen (the slope is
 * the median of the slopes between all pairs; P. K. Sen, 1968), which a few odd measurements can't pull away. Neither
 * part is less than nothing.
 *
 * @param fixed milliseconds
 * @param perByte milliseconds a byte
 */
record SizeLine(double fixed, double perByte) {
  /** Sizes that lie closer together than this say nothing of what a byte takes. */
  private static final double APART = 2;

  /** Whether measurements of these sizes can tell the two parts from one another. */
  static boolean tells(List<Measured> all) {
    long least = all.stream().mapToLong(Measured::bytes).min().orElse(0);
    long most = all.stream().mapToLong(Measured::bytes).max().orElse(0);
    return least > 0 && most >= APART * least;
  }

  /**
   * @param all at least two, of which {@link #tells} is true
   */
  static SizeLine through(List<Measured> all) {
    List<Double> slopes = new ArrayList<>();
    for (Measured a : all) {
      for (Measured b : all) {
        if (a.bytes() < b.bytes()) {
          slopes.add((double) (b.millis() - a.millis()) / (b.bytes() - a.bytes()));
        }
      }
    }
    double perByte = Math.max(0, median(slopes));
    double fixed =
        median(all.stream().map(m -> m.millis() - perByte * m.bytes()).toList());
    return new SizeLine(Math.max(0, fixed), perByte);
  }

  double at(long bytes) {
    return fixed + perByte * bytes;
  }

  private static double median(List<Double> values) {
    double[] sorted = values.stream().mapToDouble(Double::doubleValue).toArray();
    Arrays.sort(sorted);
    int n = sorted.length;
    return n % 2 == 1 ? sorted[n / 2] : (sorted[n / 2 - 1] + sorted[n / 2]) / 2;
  }
}
