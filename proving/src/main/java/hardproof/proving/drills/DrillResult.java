package hardproof.proving.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import java.time.Duration;

/**
 * What a drill came to.
 *
 * @param bytes read from the store
 * @param reading how long reading (and restoring) them took
 */
public record DrillResult(
    RestoreState restore,
    ChecksState checks,
    CleanupState cleanup,
    Rung reaches,
    long bytes,
    Duration reading,
    String blamedPoint,
    String blamedStore,
    String sentence) {

  /** Bytes a second while reading; null when too little was read to say. */
  public Long throughput() {
    return bytes == 0 || reading.toNanos() == 0 ? null : (long) (bytes / (reading.toNanos() / 1e9));
  }
}
