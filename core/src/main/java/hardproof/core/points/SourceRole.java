package hardproof.core.points;

import hardproof.core.wording.Coded;

/** Which member of a cluster a point was taken from. */
public enum SourceRole implements Coded {
  ACTIVE,
  PASSIVE
}
