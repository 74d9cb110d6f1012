package hardproof.core.points;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalDouble;
import java.util.OptionalLong;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * How much would be lost at each instant: x minus the newest data time among the points usable at x.
 * A saw-tooth that climbs with time and drops when a newer point becomes usable. Points that become
 * usable out of order never make it worse; a point that stops being usable may. All instants and
 * lengths are epoch milliseconds.
 */
public final class ExposureCurve {
  private static final long NOTHING = Long.MIN_VALUE;

  /** Segment i covers [starts[i], starts[i+1]); the last one has no end. */
  private final long[] starts;

  /** Newest usable data time within the segment, or NOTHING. */
  private final long[] newest;

  private final long countedFrom;

  private ExposureCurve(long[] starts, long[] newest, long countedFrom) {
    this.starts = starts;
    this.newest = newest;
    this.countedFrom = countedFrom;
  }

  /**
   * Of points with their data time and when each is usable, from {@code from} (inclusive) until
   * {@code until} (exclusive, {@link UsableSpan#OPEN} when nothing ended it; never where not after
   * {@code from}).
   *
   * @param countedFrom when the resource was first seen; before it nothing is counted
   */
  public static ExposureCurve of(long countedFrom, long[] data, long[] from, long[] until) {
    boolean anyEnds = false;
    boolean inOrder = true;
    long before = Long.MIN_VALUE;
    for (int i = 0; i < data.length; i++) {
      if (from[i] < until[i]) {
        anyEnds |= until[i] != UsableSpan.OPEN;
        inOrder &= from[i] >= before;
        before = from[i];
      }
    }
    return anyEnds || !inOrder
        ? general(countedFrom, data, from, until)
        : onlyBeginnings(countedFrom, data, from, until);
  }

  /** The common case: points come in order and stay usable, so that a running maximum is enough. */
  private static ExposureCurve onlyBeginnings(
      long countedFrom, long[] data, long[] from, long[] until) {
    long[] starts = new long[data.length];
    long[] newest = new long[data.length];
    int segments = 0;
    long top = NOTHING;
    for (int i = 0; i < data.length; i++) {
      if (from[i] >= until[i] || data[i] <= top) {
        continue;
      }
      top = data[i];
      if (segments > 0 && starts[segments - 1] == from[i]) {
        segments--;
      }
      starts[segments] = from[i];
      newest[segments] = top;
      segments++;
    }
    return new ExposureCurve(
        Arrays.copyOf(starts, segments), Arrays.copyOf(newest, segments), countedFrom);
  }

  private static ExposureCurve general(long countedFrom, long[] data, long[] from, long[] until) {
    List<long[]> changes = new ArrayList<>(data.length * 2);
    for (int i = 0; i < data.length; i++) {
      if (from[i] >= until[i]) {
        continue;
      }
      changes.add(new long[] {from[i], data[i], 1});
      if (until[i] != UsableSpan.OPEN) {
        changes.add(new long[] {until[i], data[i], -1});
      }
    }
    changes.sort((a, b) -> Long.compare(a[0], b[0]));
    long[] starts = new long[changes.size()];
    long[] newest = new long[changes.size()];
    int segments = 0;
    TreeMap<Long, Integer> usable = new TreeMap<>();
    for (int i = 0; i < changes.size(); i++) {
      long[] change = changes.get(i);
      usable.merge(change[1], (int) change[2], (a, b) -> a + b == 0 ? null : a + b);
      boolean lastAtThisInstant = i + 1 == changes.size() || changes.get(i + 1)[0] != change[0];
      if (lastAtThisInstant) {
        long top = usable.isEmpty() ? NOTHING : usable.lastKey();
        if (segments == 0 || newest[segments - 1] != top) {
          starts[segments] = change[0];
          newest[segments] = top;
          segments++;
        }
      }
    }
    return new ExposureCurve(
        Arrays.copyOf(starts, segments), Arrays.copyOf(newest, segments), countedFrom);
  }

  /** Exposure at {@code instant}; empty when no point is usable then: everything would be lost. */
  public OptionalLong at(long instant) {
    OptionalLong data = newestDataTimeAt(instant);
    return data.isEmpty() ? data : OptionalLong.of(instant - data.getAsLong());
  }

  /** The newest data time that could be restored at {@code instant}. */
  public OptionalLong newestDataTimeAt(long instant) {
    int i = segmentAt(instant);
    return i < 0 || newest[i] == NOTHING ? OptionalLong.empty() : OptionalLong.of(newest[i]);
  }

  private int segmentAt(long instant) {
    int i = Arrays.binarySearch(starts, instant);
    return i >= 0 ? i : -i - 2;
  }

  /**
   * A stretch in which the newest usable data time does not change.
   *
   * @param newestDataTime null when nothing is usable
   */
  public record Tooth(long from, long to, @Nullable Long newestDataTime) {}

  /** The teeth within [from, to], clipped to it and to the instant counting begins. */
  public List<Tooth> teeth(long from, long to) {
    List<Tooth> teeth = new ArrayList<>();
    long start = Math.max(from, countedFrom);
    int i = segmentAt(start);
    while (start < to) {
      long end = i + 1 < starts.length ? Math.min(to, starts[i + 1]) : to;
      long data = i < 0 ? NOTHING : newest[i];
      teeth.add(new Tooth(start, end, data == NOTHING ? null : data));
      start = end;
      i++;
    }
    return teeth;
  }

  /**
   * The curve over a period.
   *
   * @param worst the largest exposure; empty when at some counted instant nothing was usable
   * @param worstAt where it was reached (the end of its tooth, or where nothing first was usable)
   * @param within how long the exposure was at most the RPO
   * @param counted length of the period after counting begins
   */
  public record Summary(OptionalLong worst, long worstAt, long within, long counted) {
    /** Share of the period within the RPO; empty when nothing was counted. */
    public OptionalDouble attainment() {
      return counted == 0 ? OptionalDouble.empty() : OptionalDouble.of((double) within / counted);
    }
  }

  /**
   * Worst exposure and attainment in [from, to]: over each tooth [s, e) with newest data time d the
   * worst is e − d, and max(0, min(e, d + rpo) − s) of it is within the RPO.
   */
  public Summary over(long from, long to, long rpo) {
    long worst = 0;
    long worstAt = to;
    long within = 0;
    boolean everythingLost = false;
    long begin = Math.max(from, countedFrom);
    long start = begin;
    for (int i = segmentAt(start); start < to; i++) {
      long end = i + 1 < starts.length ? Math.min(to, starts[i + 1]) : to;
      long data = i < 0 ? NOTHING : newest[i];
      if (data == NOTHING) {
        worstAt = everythingLost ? worstAt : start;
        everythingLost = true;
      } else {
        within += Math.max(0, Math.min(end, data + rpo) - start);
        if (end - data > worst) {
          worst = end - data;
          worstAt = everythingLost ? worstAt : end;
        }
      }
      start = end;
    }
    long counted = Math.max(0, to - begin);
    return new Summary(
        everythingLost ? OptionalLong.empty() : OptionalLong.of(worst), worstAt, within, counted);
  }
}
