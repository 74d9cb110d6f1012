package hardproof.proving.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a drill came to.
 *
 * @param bytes read from the store
 * @param reading how long reading (and restoring) them took
 * @param awaits whose word the checks still wait for; they are then {@code waiting}
 * @param newest the newest time found in the data; null when none was looked for
 * @param baselines of artifacts that were read for the first time
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
    String sentence,
    Awaits awaits,
    @Nullable Instant newest,
    List<Baseline> baselines) {
  /** Whose word a run waits for. */
  public enum Awaits {
    NOBODY,
    /** A person has to say whether an unknown screen is the right one. */
    PERSON,
    /** Somebody outside has to answer. */
    OUTSIDE
  }

  /** Bytes a second while reading; null when too little was read to say. */
  public Long throughput() {
    return bytes == 0 || reading.toNanos() == 0 ? null : (long) (bytes / (reading.toNanos() / 1e9));
  }
}
