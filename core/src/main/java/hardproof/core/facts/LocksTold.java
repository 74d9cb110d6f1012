package hardproof.core.facts;

import hardproof.core.census.CensusFact;
import hardproof.core.census.CensusState;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Locks as stores tell them, where they are not as claimed. */
final class LocksTold {
  private LocksTold() {}

  /**
   * Until when the copies at some places of a set are locked, epoch milliseconds. What is claimed since counts where it
   * says less for a lock that was found to be shorter, and more for one that was found to be longer.
   */
  static Map<Integer, Long> of(PointSet set, List<CensusFact> found) {
    Map<Integer, Long> until = new HashMap<>();
    PointCopies copies = set.copies();
    for (CensusFact fact : found) {
      int row = fact.tellsLock() ? set.row(fact.point()) : -1;
      for (int place = row < 0 ? 0 : copies.first(row);
          row >= 0 && place < copies.first(row + 1);
          place++) {
        if (copies.storeKey(copies.store(place)).equals(fact.store())) {
          until.put(place, of(fact, copies.lockedUntil(place)));
        }
      }
    }
    return until;
  }

  /** {@link PointSet#NONE} is before every time. */
  private static long of(CensusFact fact, long claimed) {
    Instant lock = fact.lockedUntil();
    long told = lock == null ? PointSet.NONE : lock.toEpochMilli();
    return fact.state() == CensusState.SHORTER_LOCK
        ? Math.min(told, claimed)
        : Math.max(told, claimed);
  }
}
