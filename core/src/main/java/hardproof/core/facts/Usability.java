package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.drills.DrillFact;
import hardproof.core.points.Chain;
import hardproof.core.points.Consistency;
import hardproof.core.points.ExposureCurve;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.UsableSpan;
import java.time.Instant;
import java.util.AbstractList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.RandomAccess;
import org.jspecify.annotations.Nullable;

/**
 * When each point of a resource can be restored, and why not. A point is usable when it is
 * complete, consistent enough, its chain is whole back to a full, and every point of the chain has
 * a copy that is present and not known to be bad. It begins at the available time; what is found
 * to be bad ends it from the moment that was known, not before.
 */
public final class Usability {
  /** In {@link #culprit}: nothing ends it. */
  private static final int NOBODY = -1;

  private final PointSet set;
  private final Consistency demanded;
  private final Blames blames;
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
  private String[] breaks;

  private final Judged[] made;
  private final List<Judged> judged = new JudgedPoints();

  /**
   * A point with the time it is usable.
   *
   * @param row of the point in its set
   * @param chainLength number of points in its chain as far as it could be followed
   * @param full the full it hangs from, itself when it stands alone; null when the chain is broken
   * @param breakSentence why the chain is broken; null when it is whole
   * @param whyNot why it never was, or stopped being, usable; null while it is
   */
  public record Judged(
      int row,
      RecoveryPoint point,
      int chainLength,
      @Nullable RecoveryPoint full,
      @Nullable String breakSentence,
      UsableSpan span,
      @Nullable String whyNot) {
    public boolean usableAt(Instant instant) {
      return span.contains(instant.toEpochMilli());
    }

    public boolean chainWhole() {
      return breakSentence == null;
    }
  }

  private Usability(Estate estate, String resource, Consistency demanded) {
    this.set = estate.pointSet(resource);
    this.demanded = demanded;
    this.blames = new Blames(estate.drillsOf(resource));
    int size = set.size();
    this.from = new long[size];
    this.until = new long[size];
    this.baseFrom = new long[size];
    this.baseUntil = new long[size];
    this.own = new OwnWorth(estate, set, demanded, blames);
    this.length = new int[size];
    this.full = new int[size];
    this.culprit = new int[size];
    this.made = new Judged[size];
    for (int row = 0; row < size; row++) {
      if (length[row] == 0) {
        judge(row);
      }
    }
  }

  public static Usability of(Estate estate, String resource, Consistency demanded) {
    return new Usability(estate, resource, demanded);
  }

  /** The points and copies that are judged. */
  public PointSet set() {
    return set;
  }

  /** All points of the resource, oldest data first. */
  public List<Judged> points() {
    return judged;
  }

  private final class JudgedPoints extends AbstractList<Judged> implements RandomAccess {
    @Override
    public Judged get(int row) {
      Judged known = made[row];
      if (known == null) {
        known = make(row);
        made[row] = known;
      }
      return known;
    }

    @Override
    public int size() {
      return set.size();
    }
  }

  /** Whether the point of a row could be restored at an instant, in epoch milliseconds. */
  public boolean usableAt(int row, long instant) {
    return from[row] <= instant && instant < until[row];
  }

  /** Whether the point of a row hangs from a full with no point missing in between. */
  public boolean chainWhole(int row) {
    return full[row] >= 0;
  }

  /**
   * The row of the base that keeps a point with a whole chain from being restored at an instant: one that is
   * not complete, or has no copy that can be read. −1 when there is none.
   */
  public int badBase(int row, long instant) {
    if (!chainWhole(row) || !set.hangs(row)) {
      return -1;
    }
    int at = set.basedOn(row);
    if (baseFrom[at] <= instant && instant < baseUntil[at]) {
      return -1;
    }
    while (set.hangs(at)) {
      OwnWorth.Own worth = own.of(at, false);
      if (worth.from() > instant || instant >= worth.until()) {
        return at;
      }
      at = set.basedOn(at);
    }
    return at;
  }

  /** Why a base can't be restored, in words that follow its key; null while it can. */
  public String whyNotAsBase(int row) {
    String why = own.of(row, false).whyNot();
    return why == null ? "it is not available yet" : why;
  }

  /** The row of the usable point with the newest data at an instant; −1 when there is none. */
  public int newestUsable(long instant) {
    int row = set.size() - 1;
    while (row >= 0 && !usableAt(row, instant)) {
      row--;
    }
    return row;
  }

  /** How the exposure went, counted from {@code countedFrom}. */
  public ExposureCurve curve(long countedFrom) {
    long[] data = new long[set.size()];
    Arrays.setAll(data, set::dataTime);
    return ExposureCurve.of(countedFrom, data, from, until);
  }

  /**
   * The drill or read-back that showed a copy to be bad, and that nothing has taken back since; null when
   * there is none.
   *
   * @param store null to ask for the point wherever it lies
   */
  public DrillFact blamed(String point, String store) {
    return blames.of(point, store);
  }

  /** The points that must be restored one after another to reach {@code point}. */
  public Chain chainOf(RecoveryPoint point) {
    return Chain.of(point, set::point);
  }

  private Judged make(int row) {
    String broken = chainWhole(row) ? null : breaks[row];
    return new Judged(
        row,
        set.point(row),
        length[row],
        broken == null ? set.point(full[row]) : null,
        broken,
        new UsableSpan(set.dataTime(row), from[row], until[row]),
        broken == null ? whyNot(row) : broken);
  }

  private String whyNot(int row) {
    if (set.consistency(row).compareTo(demanded) < 0) {
      return own.of(row, true).whyNot();
    }
    int by = culprit[row];
    if (by == NOBODY) {
      return null;
    }
    String why = own.of(by, false).whyNot();
    return by == row ? why : "it hangs from " + set.key(by) + ": " + why;
  }

  /** Follows the chain down to what is known already, and comes back up; each point is seen once. */
  private void judge(int row) {
    if (!set.hangs(row)) {
      foot(row);
      return;
    }
    int[] way = new int[8];
    int steps = 0;
    BitSet seen = new BitSet(set.size());
    int at = row;
    while (true) {
      if (seen.get(at)) {
        brokenWay(way, steps, "the chain goes in a circle at " + set.key(at));
        return;
      }
      if (!set.hangs(at)) {
        foot(at);
        break;
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
      if (length[at] > 0) {
        break;
      }
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
    if (!chainWhole(below)) {
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

  /** Whether a copy is present, finished, and not known to be bad, at the as-at instant. */
  public boolean readable(Copy copy) {
    return own.readable(copy);
  }

  /** As {@link #readable(Copy)}, of the copy at a place of the set. */
  public boolean readable(int place) {
    return own.readable(place);
  }

  /** As {@link #inError(Copy)}, of the copy at a place of the set. */
  public boolean inError(int place) {
    return own.inError(place);
  }

  /** Whether a copy is damaged or failed to be read: the last figure of the copy rule counts it. */
  public boolean inError(Copy copy) {
    return own.inError(copy);
  }
}
