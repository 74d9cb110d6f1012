package hardproof.core.integrity;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability;
import hardproof.core.points.RecoveryPoint;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A copy that is damaged or not there, or a point that is bad wherever it lies.
 *
 * @param store null when the point is bad everywhere
 * @param drill the drill or sweep that showed it; null where a feed says so
 * @param hanging points that need it, itself first
 * @param lostFrom data time of the oldest, {@code lostTo} of the newest point that can't be restored
 *     because of it; null when another copy is good
 * @param otherGood stores with a good copy of the same point
 * @param olderGood the newest usable point before it; null when there is none
 * @param newerGood the oldest usable point after it; null when there is none
 */
public record Damage(
    Resource resource,
    RecoveryPoint point,
    @Nullable String store,
    @Nullable DrillFact drill,
    Instant found,
    List<String> hanging,
    @Nullable Instant lostFrom,
    @Nullable Instant lostTo,
    List<String> otherGood,
    @Nullable RecoveryPoint olderGood,
    @Nullable RecoveryPoint newerGood,
    String sentence) {

  static boolean told(Copy copy) {
    return copy.state() == CopyState.DAMAGED || Boolean.FALSE.equals(copy.lastReadPassed());
  }

  /** Of a point that a drill showed to be bad, wherever it lies. */
  static Damage everywhere(Looked at, DrillFact drill) {
    return of(at, null, drill, drill.ended(), drill.sentence());
  }

  /**
   * Of one copy.
   *
   * @param drill that showed it; null where only its feed says so
   */
  static Damage of(Looked at, Copy copy, @Nullable DrillFact drill) {
    if (drill != null) {
      return of(at, copy.store(), drill, drill.ended(), drill.sentence());
    }
    String sentence = copy.state() == CopyState.DAMAGED
        ? "its feed says that it is damaged"
        : "its feed says that its last read-back failed";
    Instant found = copy.lastRead() != null ? copy.lastRead() : copy.recordedAt();
    return of(at, copy.store(), null, found, sentence);
  }

  /** A point that is looked at, by its row. */
  record Looked(Estate estate, Resource resource, Usability usability, int row) {
    PointSet set() {
      return usability.set();
    }

    RecoveryPoint point() {
      return set().point(row);
    }

    boolean usable(int other) {
      return usability.usableAt(other, estate.asAt().toEpochMilli());
    }

    /** Rows of points that need this one, itself first. */
    List<Integer> hanging() {
      String key = point().key();
      List<Integer> rows = new ArrayList<>();
      for (int later = row; later < set().size(); later++) {
        boolean needs = later == row
            || usability.chainOf(set().point(later)).points().stream()
                .anyMatch(c -> c.key().equals(key));
        if (needs) {
          rows.add(later);
        }
      }
      return rows;
    }

    /** The nearest usable point in a direction; null when there is none. */
    @Nullable
    RecoveryPoint near(int step) {
      for (int i = row + step; i >= 0 && i < set().size(); i += step) {
        if (usable(i)) {
          return set().point(i);
        }
      }
      return null;
    }
  }

  private static Damage of(
      Looked at,
      @Nullable String store,
      @Nullable DrillFact drill,
      Instant found,
      String sentence) {
    List<Integer> hanging = at.hanging();
    List<Instant> lost = hanging.stream()
        .filter(row -> !at.usable(row))
        .map(row -> at.set().point(row).dataTime())
        .toList();
    List<String> good = at.set().copiesOf(at.row()).stream()
        .filter(c -> store != null && !c.store().equals(store) && at.usability().readable(c))
        .map(Copy::store)
        .toList();
    return new Damage(
        at.resource(),
        at.point(),
        store,
        drill,
        found,
        hanging.stream().map(row -> at.set().key(row)).toList(),
        lost.isEmpty() ? null : lost.get(0),
        lost.isEmpty() ? null : lost.get(lost.size() - 1),
        good,
        at.near(-1),
        at.near(1),
        sentence);
  }
}
