package hardproof.proving.boot;

/** How watching a machine came to its end. */
public enum Ending {
  /** It waits: for a key, or for something to happen. */
  WAITING,
  /** It runs in a circle, and nothing comes of it. */
  BUSY,
  /** Its time was over while it still worked: nothing is known. */
  WORKING,
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
