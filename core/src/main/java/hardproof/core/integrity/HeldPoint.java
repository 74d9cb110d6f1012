package hardproof.core.integrity;

import hardproof.core.facts.PointSet;
import hardproof.core.points.Chain;
import hardproof.core.points.RecoveryPoint;
import java.util.Optional;
import java.util.function.Predicate;

/** Of the points of a resource the newest that a store holds with all that it needs. */
public final class HeldPoint {
  private HeldPoint() {}

  /**
   * Looks from the newest backwards.
   *
   * @param there whether the store has an artifact of a point, as it is claimed
   */
  public static Optional<RecoveryPoint> newest(PointSet set, Predicate<RecoveryPoint> there) {
    for (int row = set.size() - 1; row >= 0; row--) {
      RecoveryPoint point = set.point(row);
      Chain chain = Chain.of(point, set::point);
      if (chain.whole() && chain.points().stream().allMatch(there)) {
        return Optional.of(point);
      }
    }
    return Optional.empty();
  }
}
