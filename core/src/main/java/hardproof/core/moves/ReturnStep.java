package hardproof.core.moves;

import hardproof.core.wording.Coded;

/** What is needed to return, in this order. */
public enum ReturnStep implements Coded {
  /** A point was made since it is away: what is new there is not lost with that site. */
  PROTECTED_AWAY,
  /** Such a point lies at home with its chain, so that it can be brought back there. */
  COPIED_HOME,
  /** Facts put it home again. */
  BACK,
  /** A point that hangs from nothing was made since: what changed meanwhile is in no increment of before. */
  CHAIN_BEGUN,
  /** Points made since lie on every store that those of the period before it left did. */
  COPIES_AS_BEFORE;

  /** How a step stands. */
  public enum State implements Coded {
    DONE,
    /** It can be done now. */
    OPEN,
    /** An earlier one comes first. */
    WAITS,
    /** Facts that would show it are not there; it holds nothing up. */
    NOT_KNOWN,
    /** It can't be done any more; it holds nothing up. */
    MISSED
  }
}
