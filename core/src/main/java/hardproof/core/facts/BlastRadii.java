package hardproof.core.facts;

import java.util.Arrays;

/**
 * What would be lost with each point of a resource, if it were damaged or deleted: the points that hang from
 * it, and how far back and how close to now one could still go. A point that nothing hangs from has blast
 * radius 1.
 */
public final class BlastRadii {
  private final PointSet set;
  private final int[] points;

  /** Rows from the oldest usable point down to its full, and for each the oldest usable point that stays. */
  private final Side oldest;

  private final Side newest;

  /** The chain of one usable point, and what stays usable without each point of it. */
  private record Side(int row, int[] chain, int[] left) {
    int without(int lost) {
      for (int i = 0; i < chain.length; i++) {
        if (chain[i] == lost) {
          return left[i];
        }
      }
      return row;
    }
  }

  /**
   * @param asAt in epoch milliseconds: which points are usable then
   */
  public BlastRadii(Usability usability, long asAt) {
    this.set = usability.set();
    this.points = withAllThatHang();
    int first = -1;
    int last = -1;
    for (int row = 0; row < set.size(); row++) {
      if (usability.usableAt(row, asAt)) {
        first = first < 0 ? row : first;
        last = row;
      }
    }
    this.oldest = side(usability, asAt, first, 1);
    this.newest = side(usability, asAt, last, -1);
  }

  /** How many points are lost with one: itself and all that hang from it. */
  public int points(int row) {
    return points[row];
  }

  /** The row of the oldest usable point there is; −1 when there is none. */
  public int oldest() {
    return oldest.row();
  }

  /** The row of the oldest usable point once one is lost; −1 when none is left. */
  public int oldestWithout(int row) {
    return oldest.without(row);
  }

  /** The row of the newest usable point once one is lost; −1 when none is left. */
  public int newestWithout(int row) {
    return newest.without(row);
  }

  /** Leaves first, so that each point is counted once; points of a circle count what hangs from the circle. */
  private int[] withAllThatHang() {
    int[] count = new int[set.size()];
    int[] waiting = new int[set.size()];
    Arrays.fill(count, 1);
    for (int row = 0; row < set.size(); row++) {
      if (base(row) >= 0) {
        waiting[base(row)]++;
      }
    }
    int[] ready = new int[set.size()];
    int end = 0;
    for (int row = 0; row < set.size(); row++) {
      if (waiting[row] == 0) {
        ready[end++] = row;
      }
    }
    for (int i = 0; i < end; i++) {
      int base = base(ready[i]);
      if (base >= 0) {
        count[base] += count[ready[i]];
        if (--waiting[base] == 0) {
          ready[end++] = base;
        }
      }
    }
    return count;
  }

  private int base(int row) {
    return set.hangs(row) ? set.basedOn(row) : -1;
  }

  /** Without any point but those of its chain, {@code row} stays what it is. */
  private Side side(Usability usability, long asAt, int row, int step) {
    if (row < 0) {
      return new Side(-1, new int[0], new int[0]);
    }
    int[] chain = new int[usability.points().get(row).chainLength()];
    int[] rank = new int[set.size()];
    Arrays.fill(rank, Integer.MAX_VALUE);
    int at = row;
    for (int i = 0; i < chain.length; i++) {
      chain[i] = at;
      rank[at] = i;
      at = base(at);
    }
    int[] left = new int[chain.length];
    Arrays.fill(left, -1);
    int open = 0;
    for (int other = row; other >= 0 && other < set.size() && open < chain.length; other += step) {
      if (usability.usableAt(other, asAt)) {
        // It is lost with the points of the chain from its own place in it on.
        int stays = Math.min(rankOf(other, rank), chain.length);
        while (open < stays) {
          left[open++] = other;
        }
      }
    }
    return new Side(row, chain, left);
  }

  /** The place in the chain of the first of its points that another one hangs from, itself included. */
  private int rankOf(int row, int[] rank) {
    int at = row;
    while (at >= 0 && rank[at] == Integer.MAX_VALUE) {
      at = base(at);
    }
    return at < 0 ? Integer.MAX_VALUE : rank[at];
  }
}
