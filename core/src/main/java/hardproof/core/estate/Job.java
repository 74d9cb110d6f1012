package hardproof.core.estate;

import hardproof.core.wording.Coded;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A run of somebody's backup software, as it says.
 *
 * @param ended null while it runs
 */
public record Job(
    String key,
    Type type,
    String resource,
    String policy,
    String store,
    Instant started,
    @Nullable Instant ended,
    Result outcome,
    Long bytes,
    String message) {
  /** What a job was for. */
  public enum Type implements Coded {
    BACKUP,
    COPY,
    RESTORE
  }

  /** What its software said about it. */
  public enum Result implements Coded {
    SUCCEEDED,
    WARNING,
    FAILED,
    CANCELLED,
    RUNNING
  }

  /** Null while it runs. */
  public Duration took() {
    return started == null || ended == null ? null : Duration.between(started, ended);
  }
}
