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
import java.util.List;
import java.util.Optional;
import java.util.RandomAccess;
import org.jspecify.annotations.Nullable;

/**
 * When each point of a resource can be restored, and why not. A point is usable when it is
 * complete, consistent enough, its chain is whole back to a full, and every point of the chain has
 * a copy that is present and not known to be bad. It begins at the available time; what is found
 * to be bad ends it from the moment that was known, not before.
 */
public final class Usability {
  private final PointSet set;
  private final Consistency demanded;
  private final Blames blames;
  private final OwnWorth own;

  private final ChainSpans spans;
  private final Judged[] made;
  private final List<Judged> judged = new JudgedPoints();

  /** The newest point of a resource that is usable at the instant of the estate, of whatever consistency. */
  public static Optional<RecoveryPoint> newest(Estate estate, String resource) {
    return of(estate, resource, Consistency.UNKNOWN).points().stream()
        .filter(j -> j.usableAt(estate.asAt()))
        .map(Judged::point)
        .reduce((a, b) -> b);
  }

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
    this.blames = new Blames(estate.blamingOf(resource));
    this.own = new OwnWorth(estate, set, demanded, blames);
    this.spans = new ChainSpans(set, demanded, own);
    this.made = new Judged[set.size()];
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
    return spans.usableAt(row, instant);
  }

  /** Whether the point of a row hangs from a full with no point missing in between. */
  public boolean chainWhole(int row) {
    return spans.whole(row);
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
    if (spans.baseUsableAt(at, instant)) {
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
    return spans.curve(countedFrom);
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
    String broken = spans.breakOf(row);
    return new Judged(
        row,
        set.point(row),
        spans.length(row),
        broken == null ? set.point(spans.full(row)) : null,
        broken,
        spans.span(row),
        broken == null ? whyNot(row) : broken);
  }

  private String whyNot(int row) {
    if (set.consistency(row).compareTo(demanded) < 0) {
      return own.of(row, true).whyNot();
    }
    int by = spans.culprit(row);
    if (by < 0) {
      return null;
    }
    String why = own.of(by, false).whyNot();
    return by == row ? why : "it hangs from " + set.key(by) + ": " + why;
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
