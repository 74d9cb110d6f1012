package hardproof.proving.drills;

import java.time.Duration;

/**
 * What one run may take at the most.
 *
 * @param bytes that it may write; the space that is free counts too
 * @param files that it may make
 * @param time until it is ended
 * @param sandboxes that may exist at once, held ones counted
 */
public record DrillLimits(long bytes, long files, Duration time, int sandboxes) {
  public static DrillLimits usual() {
    return new DrillLimits(1L << 43, 2_000_000, Duration.ofHours(12), 12);
  }
}
