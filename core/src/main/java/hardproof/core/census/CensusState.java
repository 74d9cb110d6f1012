package hardproof.core.census;

import hardproof.core.wording.Coded;

/** What a list of a store says of a copy that is claimed to be on it. Best first. */
public enum CensusState implements Coded {
  /** Everything that the point needs is there, with the sizes that are claimed. */
  HELD,
  /** It is there. */
  THERE,
  /** The store keeps it from change for longer than is claimed. */
  LONGER_LOCK,
  /** It was written again since it is claimed to be finished. */
  NEWER,
  /** The store keeps it from change for less time than is claimed. */
  SHORTER_LOCK,
  /** It is longer or shorter than is claimed. */
  OTHER_SIZE,
  /** The store worked out another checksum when it was written. */
  OTHER_SUM,
  /** It is not there. */
  GONE;

  /** Whether it is not as it is claimed. */
  public boolean differs() {
    return compareTo(NEWER) >= 0;
  }

  /** Whether nothing can be restored from it: not as it is claimed is not yet bad. */
  public boolean bad() {
    return compareTo(OTHER_SIZE) >= 0;
  }

  /** Whether it tells how long the store keeps it from change, in place of what is claimed. */
  public boolean ofLock() {
    return this == LONGER_LOCK || this == SHORTER_LOCK;
  }
}
