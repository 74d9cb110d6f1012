package hardproof.proving.checks;

import hardproof.core.wording.Coded;

/** What a check is asked of. */
public enum Aspect implements Coded {
  FILES,
  DATABASE,
  DIRECTORY,
  SCREEN,
  /** Asked of somebody outside, who is told of the run. */
  OUTSIDE
}
