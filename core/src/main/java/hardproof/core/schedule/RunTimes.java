package hardproof.core.schedule;

import java.time.Duration;
import java.util.Arrays;
import java.util.List;

/**
 * How long runs usually take: the median, and the 95th percentile by nearest rank (the smallest value
 * that at least 95 % of the values do not exceed; NIST/SEMATECH e-Handbook 1.3.5.6 describes
 * percentiles).
 *
 * @param runs how many were looked at; never 0
 */
public record RunTimes(int runs, Duration median, Duration p95) {

  /**
   * @param durations in any order
   * @return null when there are none
   */
  public static RunTimes of(List<Duration> durations) {
    if (durations.isEmpty()) {
      return null;
    }
    long[] sorted = durations.stream().mapToLong(Duration::toMillis).sorted().toArray();
    int n = sorted.length;
    long median = n % 2 == 1 ? sorted[n / 2] : (sorted[n / 2 - 1] + sorted[n / 2]) / 2;
    long p95 =
        Arrays.stream(sorted).skip((long) Math.ceil(0.95 * n) - 1).findFirst().orElseThrow();
    return new RunTimes(n, Duration.ofMillis(median), Duration.ofMillis(p95));
  }
}
