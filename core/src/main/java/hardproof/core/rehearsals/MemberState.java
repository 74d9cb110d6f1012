package hardproof.core.rehearsals;

import hardproof.core.wording.Coded;

/** How far a member of a rehearsal is. */
public enum MemberState implements Coded {
  /** It waits for what it needs, or for room. */
  WAITING,
  /** It is brought back. */
  RUNNING,
  /** It is back, and somebody has to say whether rightly. */
  AWAITING,
  /** It came up, and stays up until the end. */
  UP,
  /** It did not come up, or did not stay up. */
  FAILED,
  /** It was ended, or could not be judged: that says nothing about its data. */
  NOT_JUDGED,
  /** It never began: what it needs did not come up. */
  NOT_BEGUN;

  /** Whether nothing more becomes of it before the end. */
  public boolean settled() {
    return this == UP || this == FAILED || this == NOT_JUDGED || this == NOT_BEGUN;
  }

  /** Whether what needs it can't begin any more. */
  boolean stops() {
    return settled() && this != UP;
  }
}
