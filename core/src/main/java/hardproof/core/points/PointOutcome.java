package hardproof.core.points;

import hardproof.core.wording.Coded;

/** What the making of a point came to. Partial is never enough to be usable. */
public enum PointOutcome implements Coded {
  COMPLETE,
  PARTIAL,
  FAILED
}
