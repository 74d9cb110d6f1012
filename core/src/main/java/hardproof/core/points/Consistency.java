package hardproof.core.points;

import hardproof.core.wording.Coded;

/** What the data in a point agrees with, from the weakest to the strongest. */
public enum Consistency implements Coded {
  /** Not known. */
  UNKNOWN,
  /** Each file by itself; files may be of different moments. */
  FILE,
  /** One moment for all, as after a power cut. */
  CRASH,
  /** The application was told and had written everything. */
  APPLICATION
}
