package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.points.RecoveryPoint;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** The points of one resource with their copies, oldest data first. Immutable. */
public final class PointSet {
  public static final PointSet EMPTY = new PointSet(List.of(), Map.of());

  private final List<RecoveryPoint> points;
  private final Map<String, List<Copy>> copies;
  private Map<String, RecoveryPoint> byKey;

  private PointSet(List<RecoveryPoint> points, Map<String, List<Copy>> copies) {
    this.points = points;
    this.copies = copies;
  }

  /**
   * @param points in any order
   * @param copies by the key of their point; those of other points are not looked at
   */
  public static PointSet of(List<RecoveryPoint> points, Map<String, List<Copy>> copies) {
    if (points.isEmpty()) {
      return EMPTY;
    }
    List<RecoveryPoint> sorted = new ArrayList<>(points);
    sorted.sort(Comparator.comparing(RecoveryPoint::dataTime).thenComparing(RecoveryPoint::key));
    return new PointSet(sorted, copies);
  }

  public List<RecoveryPoint> points() {
    return points;
  }

  /** The point with a key; null when the resource has none. */
  public synchronized RecoveryPoint point(String key) {
    if (byKey == null) {
      byKey = new HashMap<>(points.size() * 2);
      points.forEach(p -> byKey.put(p.key(), p));
    }
    return byKey.get(key);
  }

  public List<Copy> copiesOf(RecoveryPoint point) {
    return copies.getOrDefault(point.key(), List.of());
  }
}
