package hardproof.proving.boot;

/** How watching a machine came to its end. */
public enum Ending {
  /** It waits: for a key, or for something to happen. */
  WAITING,
  /** It works without its screen changing, until the limit. */
  BUSY,
  /** It stopped for good: halted with interrupts off. */
  HALTED,
  /** It restarted itself. */
  RESTARTED,
  /** It switched itself off. */
  OFF,
  /** The firmware found nothing to start. */
  NOTHING_TO_START,
  /** The engine came to what it can't do; nothing is known. */
  NOT_DECIDED
}
