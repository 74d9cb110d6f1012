package hardproof.core.copies;

import hardproof.core.wording.Coded;

/** What is known of a copy. */
public enum CopyState implements Coded {
  PRESENT,
  MISSING,
  DAMAGED,
  DELETED
}
