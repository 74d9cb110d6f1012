package hardproof.core.facts;

import hardproof.core.points.Consistency;
import hardproof.core.points.ExposureCurve;
import hardproof.core.points.UsableSpan;
import java.util.Arrays;
import java.util.BitSet;
import org.jspecify.annotations.Nullable;

/**
 * When each point of a set is usable, by itself and with its chain, worked out along the chains so that each point is
 * seen once. Times are epoch milliseconds.
 */
final class ChainSpans {
  /** In {@link #culprit}: nothing ends it. */
  private static final int NOBODY = -1;

  private final PointSet set;
  private final Consistency demanded;
  private final OwnWorth own;

  /** When each point is usable, by itself and with its chain; empty where {@code from ≥ until}. */
  private final long[] from;

  private final long[] until;

  /**
   * When each point could be restored with its chain, whatever its own consistency: what hangs from it
   * restores to its own state, not to that of its bases.
   */
  private final long[] baseFrom;

  private final long[] baseUntil;

  /** Number of points in the chain of each as far as it could be followed; 0 while not judged. */
  private final int[] length;

  /** The row of the full that each hangs from; −1 where its chain is broken. */
  private final int[] full;

  /** The row of the point of the chain that ends each soonest, whatever its own consistency. */
  private final int[] culprit;

  /** Why the chain of each is broken; null as long as none is. */
  private String @Nullable [] breaks;

  ChainSpans(PointSet set, Consistency demanded, OwnWorth own) {
    int size = set.size();
    this.set = set;
    this.demanded = demanded;
    this.own = own;
    this.from = new long[size];
    this.until = new long[size];
    this.baseFrom = new long[size];
    this.baseUntil = new long[size];
    this.length = new int[size];
    this.full = new int[size];
    this.culprit = new int[size];
    for (int row = 0; row < size; row++) {
      if (length[row] == 0) {
        judge(row);
      }
    }
  }

  boolean usableAt(int row, long instant) {
    return from[row] <= instant && instant < until[row];
  }

  /** As {@link #usableAt}, whatever its own consistency. */
  boolean baseUsableAt(int row, long instant) {
    return baseFrom[row] <= instant && instant < baseUntil[row];
  }

  boolean whole(int row) {
    return full[row] >= 0;
  }

  int length(int row) {
    return length[row];
  }

  /** −1 where the chain is broken. */
  int full(int row) {
    return full[row];
  }

  /** −1 where nothing ends it. */
  int culprit(int row) {
    return culprit[row];
  }

  /** Why the chain is broken; null where it is whole. */
  @Nullable
  String breakOf(int row) {
    return whole(row) || breaks == null ? null : breaks[row];
  }

  UsableSpan span(int row) {
    return new UsableSpan(set.dataTime(row), from[row], until[row]);
  }

  ExposureCurve curve(long countedFrom) {
    long[] data = new long[set.size()];
    Arrays.setAll(data, set::dataTime);
    return ExposureCurve.of(countedFrom, data, from, until);
  }

  /** Follows the chain down to what is known already, and comes back up; each point is seen once. */
  private void judge(int row) {
    int[] way = new int[8];
    int steps = 0;
    BitSet seen = new BitSet(set.size());
    int at = row;
    while (length[at] == 0 && set.hangs(at)) {
      if (seen.get(at)) {
        brokenWay(way, steps, "the chain goes in a circle at " + set.key(at));
        return;
      }
      seen.set(at);
      way = steps == way.length ? Arrays.copyOf(way, 2 * steps) : way;
      way[steps++] = at;
      int base = set.basedOn(at);
      if (base < 0) {
        brokenWay(
            way, steps, set.key(at) + " is based on " + set.basedOnKey(at) + ", which is missing");
        return;
      }
      at = base;
    }
    if (length[at] == 0) {
      foot(at);
    }
    for (int i = steps - 1; i >= 0; i--) {
      onTop(at, way[i]);
      at = way[i];
    }
  }

  private void brokenWay(int[] way, int steps, String sentence) {
    for (int i = steps - 1; i >= 0; i--) {
      broken(way[i], steps - i, sentence);
    }
  }

  private void broken(int row, int chainLength, String sentence) {
    if (breaks == null) {
      breaks = new String[set.size()];
    }
    breaks[row] = sentence;
    length[row] = chainLength;
    full[row] = -1;
    culprit[row] = NOBODY;
  }

  private void foot(int row) {
    if (!set.form(row).standsAlone()) {
      broken(
          row,
          1,
          set.key(row) + " is " + set.form(row).code() + " and names no point that it is based on");
      return;
    }
    setOwn(row);
    length[row] = 1;
    full[row] = row;
    culprit[row] = baseUntil[row] == UsableSpan.OPEN ? NOBODY : row;
    asItself(row);
  }

  /** What a point is as itself: consistent enough, too. */
  private void asItself(int row) {
    boolean enough = set.consistency(row).compareTo(demanded) >= 0;
    from[row] = enough ? baseFrom[row] : 0;
    until[row] = enough ? baseUntil[row] : 0;
  }

  private void onTop(int below, int row) {
    if (!whole(below)) {
      broken(row, length[below] + 1, breaks[below]);
      return;
    }
    setOwn(row);
    boolean mine = baseUntil[row] != UsableSpan.OPEN
        && (culprit[below] == NOBODY || baseUntil[row] < baseUntil[below]);
    culprit[row] = mine ? row : culprit[below];
    baseFrom[row] = Math.max(baseFrom[below], baseFrom[row]);
    baseUntil[row] = Math.min(baseUntil[below], baseUntil[row]);
    length[row] = length[below] + 1;
    full[row] = full[below];
    asItself(row);
  }

  /** The times of a point by itself; the words for them are made when needed. */
  private void setOwn(int row) {
    long end = own.endOf(row);
    baseFrom[row] = end == 0 ? 0 : set.available(row);
    baseUntil[row] = end;
  }
}
