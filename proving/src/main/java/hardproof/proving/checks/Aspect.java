package hardproof.proving.checks;

import hardproof.core.wording.Coded;

/** What a check is asked of. */
public enum Aspect implements Coded {
  FILES,
  DATABASE,
  DIRECTORY,
  SCREEN,
  /** Asked of what it needs, where that is up beside it: in a rehearsal only. */
  NEEDED,
  /** Asked of somebody outside, who is told of the run. */
  OUTSIDE
}
