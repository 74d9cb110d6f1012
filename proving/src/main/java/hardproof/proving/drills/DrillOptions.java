package hardproof.proving.drills;

import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a person may say about how a method works.
 *
 * @param seed draws the sample: the same seed draws the same files again
 * @param sample how many files of a sample restore are drawn
 * @param paths files that are restored instead of drawn ones; empty to draw
 * @param engine code of the boot engine; null for the best that is there
 * @param bootLimit how long a machine may take
 * @param bytesPerSecond it reads its store no faster than this; null for as fast as it can
 */
public record DrillOptions(
    String seed,
    int sample,
    List<String> paths,
    @Nullable String engine,
    Duration bootLimit,
    @Nullable Long bytesPerSecond) {
  public static final int SAMPLE_USUAL = 20;
  public static final int SAMPLE_MOST = 10_000;
  public static final Duration BOOT_USUAL = Duration.ofMinutes(3);
  public static final Duration BOOT_MOST = Duration.ofMinutes(30);

  /**
   * @throws WrongValue saying which bound is passed
   */
  public DrillOptions {
    paths = paths == null ? List.of() : List.copyOf(paths);
    seed = seed == null ? "" : seed.strip();
    bootLimit = bootLimit == null ? BOOT_USUAL : bootLimit;
    if (sample < 1 || sample > SAMPLE_MOST || paths.size() > SAMPLE_MOST) {
      throw new WrongValue("a sample is 1 to " + SAMPLE_MOST + " files");
    }
    if (bootLimit.isNegative() || bootLimit.isZero() || bootLimit.compareTo(BOOT_MOST) > 0) {
      throw new WrongValue("a machine may take up to 30 minutes to start");
    }
    if (bytesPerSecond != null && bytesPerSecond < 1) {
      throw new WrongValue("a store is read by at least a byte a second");
    }
    if (seed.length() > 100) {
      throw new WrongValue("a seed is at most 100 characters long");
    }
  }

  /** As fast as it can. */
  public DrillOptions(
      String seed, int sample, List<String> paths, @Nullable String engine, Duration bootLimit) {
    this(seed, sample, paths, engine, bootLimit, null);
  }

  /** The same, reading no faster. */
  public DrillOptions atMost(long bytesASecond) {
    return new DrillOptions(seed, sample, paths, engine, bootLimit, bytesASecond);
  }

  /** What holds when nobody says anything. */
  public static DrillOptions usual() {
    return new DrillOptions("", SAMPLE_USUAL, List.of(), null, BOOT_USUAL);
  }
}
