package hardproof.core.drills;

import hardproof.core.wording.Coded;

/** First answer of a run: were the bytes brought back? */
public enum RestoreState implements Coded {
  WAITING,
  RUNNING,
  DONE,
  FAILED,
  /** Ended from outside: cancelled, or the application stopped. Says nothing about the data. */
  INTERRUPTED,
  /** Not begun, with a reason: no space, a target that is not allowed. */
  REFUSED;

  public boolean isFinal() {
    return this != WAITING && this != RUNNING;
  }
}
