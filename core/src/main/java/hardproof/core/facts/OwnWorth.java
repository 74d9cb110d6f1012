package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.DrillFact;
import hardproof.core.points.Consistency;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.UsableSpan;
import hardproof.core.wording.Wording;
import java.time.Instant;
import java.util.BitSet;
import org.jspecify.annotations.Nullable;

/** What points and copies of one resource are worth by themselves, whatever they hang from. */
final class OwnWorth {
  private final Estate estate;
  private final PointSet set;
  private final Consistency demanded;
  private final Blames blames;

  /** Numbers of the stores that somebody has described: what lies elsewhere can't be read. */
  private final BitSet knownStores;

  /** What a copy or a point is worth by itself: from and until when, and why no longer. */
  record Own(long from, long until, @Nullable String whyNot) {}

  OwnWorth(Estate estate, PointSet set, Consistency demanded, Blames blames) {
    this.estate = estate;
    this.set = set;
    this.demanded = demanded;
    this.blames = blames;
    this.knownStores = set.copies().storesThat(s -> estate.store(s) != null);
  }

  /** Until when the point of a row could be restored by itself, whatever its consistency; 0 for never. */
  long endOf(int row) {
    return set.available(row) == PointSet.NONE || set.outcome(row) != PointOutcome.COMPLETE
        ? 0
        : blames.any() ? of(row, false).until() : lastCopyEnds(row);
  }

  /** When the last of its copies was known to be bad or gone; 0 when there never was one. */
  private long lastCopyEnds(int row) {
    long last = 0;
    for (int place = set.copies().first(row); place < set.copies().first(row + 1); place++) {
      boolean good = set.copies().state(place) == CopyState.PRESENT
          && set.copies().lastReadPassed(place) != 0
          && knownStores.get(set.copies().store(place));
      if (good) {
        return UsableSpan.OPEN;
      }
      last = Math.max(last, end(set.copies().at(place)).until());
    }
    return last;
  }

  /**
   * @param itself whether it is judged as itself, so that its consistency counts, or as a base
   */
  Own of(int row, boolean itself) {
    RecoveryPoint point = set.point(row);
    if (point.available() == null) {
      return new Own(0, 0, "it is not available yet");
    }
    if (point.outcome() != PointOutcome.COMPLETE) {
      return new Own(0, 0, "its outcome is " + point.outcome().code());
    }
    if (itself && point.consistency().compareTo(demanded) < 0) {
      return new Own(
          0,
          0,
          "its consistency is " + point.consistency().code() + ", " + demanded.code()
              + " is demanded");
    }
    Own best = bestCopy(row);
    if (best == null) {
      return new Own(0, 0, "no copy of it is known");
    }
    long from = point.available().toEpochMilli();
    DrillFact bad = blames.of(point.key(), null);
    return bad != null && bad.ended().toEpochMilli() < best.until()
        ? new Own(
            from,
            bad.ended().toEpochMilli(),
            "the drill of " + Wording.time(bad.ended(), estate.asAt()) + " failed on it")
        : new Own(from, best.until(), best.whyNot());
  }

  /** The copy that lasts longest; null when none is known. */
  private @Nullable Own bestCopy(int row) {
    Own best = null;
    for (Copy copy : set.copiesOf(row)) {
      Own one = end(copy);
      if (best == null || one.until() > best.until()) {
        best = one;
      }
    }
    return best;
  }

  private static final Own GOOD = new Own(0, UsableSpan.OPEN, null);

  private Own end(Copy copy) {
    if (estate.store(copy.store()) == null) {
      return new Own(0, 0, "the store " + copy.store() + " of its copy is not known");
    }
    DrillFact bad = blames.of(copy.point(), copy.store());
    if (bad != null) {
      return new Own(
          0,
          bad.ended().toEpochMilli(),
          "the copy on " + estate.storeName(copy.store()) + " failed the drill of "
              + Wording.time(bad.ended(), estate.asAt()));
    }
    if (Boolean.FALSE.equals(copy.lastReadPassed())) {
      Instant known = copy.lastRead() == null ? copy.recordedAt() : copy.lastRead();
      return new Own(
          0,
          known.toEpochMilli(),
          "the read-back of the copy on " + estate.storeName(copy.store()) + " failed");
    }
    if (copy.state() == CopyState.PRESENT) {
      return GOOD;
    }
    return gone(copy);
  }

  private Own gone(Copy copy) {
    boolean neverThere = copy.state() == CopyState.MISSING && copy.finished() == null;
    Instant gone = copy.recordedAt();
    if (copy.state() == CopyState.DELETED
        && copy.expires() != null
        && copy.expires().isBefore(gone)) {
      gone = copy.expires();
    }
    return new Own(
        0,
        neverThere ? 0 : gone.toEpochMilli(),
        "the copy on " + estate.storeName(copy.store()) + " is " + copy.state().code());
  }

  /** Whether a copy is present, finished, and not known to be bad, at the as-at instant. */
  boolean readable(Copy copy) {
    return end(copy).until() > estate.asAt().toEpochMilli()
        && (copy.finished() == null || !copy.finished().isAfter(estate.asAt()));
  }

  /** As {@link #readable(Copy)}, of the copy at a place of the set. */
  boolean readable(int place) {
    boolean good = !blames.any()
        && set.copies().state(place) == CopyState.PRESENT
        && set.copies().lastReadPassed(place) != 0
        && knownStores.get(set.copies().store(place))
        && set.copies().finished(place) <= estate.asAt().toEpochMilli();
    return good || readable(set.copies().at(place));
  }

  /** As {@link #inError(Copy)}, of the copy at a place of the set. */
  boolean inError(int place) {
    return blames.any()
        ? inError(set.copies().at(place))
        : set.copies().state(place) == CopyState.DAMAGED || set.copies().lastReadPassed(place) == 0;
  }

  /** Whether a copy is damaged or failed to be read: the last figure of the copy rule counts it. */
  boolean inError(Copy copy) {
    return copy.state() == CopyState.DAMAGED
        || Boolean.FALSE.equals(copy.lastReadPassed())
        || blames.of(copy.point(), copy.store()) != null
        || blames.of(copy.point(), null) != null;
  }
}
