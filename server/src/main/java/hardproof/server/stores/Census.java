package hardproof.server.stores;

import hardproof.core.wording.Coded;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * One listing of a store.
 *
 * @param endedAt null while it goes on
 * @param clockAheadMs how much the clock of the store is ahead of ours; null where it does not tell
 */
public record Census(
    long id,
    String store,
    String askedBy,
    Instant startedAt,
    @Nullable Instant endedAt,
    State state,
    Listed listed,
    Compared compared,
    @Nullable Long clockAheadMs,
    String sentence) {
  /** How far it came. */
  public enum State implements Coded {
    RUNNING,
    DONE,
    FAILED,
    INTERRUPTED,
    CANCELLED
  }

  /**
   * What lies there; bytes.
   *
   * @param olderBytes of versions that were replaced or deleted and are still kept
   * @param untold things that no feed tells of
   */
  public record Listed(long things, long bytes, long olderBytes, long untold, long untoldBytes) {
    static final Listed NOTHING = new Listed(0, 0, 0, 0, 0);
  }

  /**
   * What became of the copies that are claimed to be there, in numbers.
   *
   * @param noPlace claimed to be there, and nobody says under which place
   * @param locksAsked copies whose lock or checksum the store was asked for, {@code locksKnown} where it knew
   */
  public record Compared(
      long claimed,
      long there,
      long gone,
      long otherSize,
      long otherSum,
      long newer,
      long shorterLock,
      long noPlace,
      long locksAsked,
      long locksKnown) {
    static final Compared NOTHING = new Compared(0, 0, 0, 0, 0, 0, 0, 0, 0, 0);
  }
}
