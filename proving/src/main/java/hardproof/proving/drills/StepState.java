package hardproof.proving.drills;

import hardproof.core.wording.Coded;

/** How far a step is. */
public enum StepState implements Coded {
  WAITING,
  RUNNING,
  DONE,
  FAILED,
  /** Not begun, because an earlier one did not come off. */
  SKIPPED
}
