package hardproof.core.drills;

import hardproof.core.wording.Coded;

/** Third answer of a run: is the restored data gone again? */
public enum CleanupState implements Coded {
  NOT_DUE,
  /** Kept until a stated instant so that a person can look. */
  HOLDING,
  DONE,
  FAILED
}
