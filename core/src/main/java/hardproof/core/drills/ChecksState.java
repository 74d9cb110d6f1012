package hardproof.core.drills;

import hardproof.core.wording.Coded;

/** Second answer of a run: was what came back right? */
public enum ChecksState implements Coded {
  NOT_ASKED,
  WAITING,
  PASSED,
  FAILED,
  TIMED_OUT
}
