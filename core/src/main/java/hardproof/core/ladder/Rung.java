package hardproof.core.ladder;

import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;

/** A rung of the proof ladder. A higher rung includes all lower ones. */
public enum Rung implements Coded {
  /** A job said that it succeeded. */
  CLAIMED,
  /** The artifact is on the store, with the expected size. */
  HELD,
  /** Every byte was read back and matched its checksum; nothing was written. */
  INTACT,
  /** Restored into a sandbox, complete and equal to its manifest. */
  RESTORED,
  /** It started and answered its checks. */
  RUNNING,
  /** The whole workload came up in its order, within its RTO. */
  REHEARSED;

  /** 0 (claimed) to 5 (rehearsed). */
  public int number() {
    return ordinal();
  }

  /**
   * @throws WrongValue unless 0 ≤ number ≤ 5
   */
  public static Rung numbered(int number) {
    if (number < 0 || number >= values().length) {
      throw new WrongValue("rung " + number + " does not exist: 0 to 5");
    }
    return values()[number];
  }

  public boolean atLeast(Rung other) {
    return compareTo(other) >= 0;
  }

  public static Rung lower(Rung a, Rung b) {
    return a.compareTo(b) <= 0 ? a : b;
  }
}
