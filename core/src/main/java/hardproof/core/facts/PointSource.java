package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.points.RecoveryPoint;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Gives the points of one resource at a time, so that an estate of any size can be judged in a
 * bounded amount of memory. Used by several threads at once.
 */
public interface PointSource {
  /** Empty when there are none. */
  PointSet of(String resource);

  /** Whether it has any point; cheaper than asking for them. */
  boolean any(String resource);

  /** Says that these will be asked for next, so that they can be brought in together. */
  default void expect(List<String> resources) {}

  /**
   * The points of some resources as they are now, in memory: whatever is written meanwhile, they stay the same.
   */
  default PointSource held(List<String> resources) {
    return this;
  }

  /** Points and copies that are in memory. */
  static PointSource of(List<RecoveryPoint> points, List<Copy> copies) {
    Map<String, List<RecoveryPoint>> byResource = new HashMap<>();
    points.forEach(
        p -> byResource.computeIfAbsent(p.resource(), k -> new ArrayList<>()).add(p));
    Map<String, List<Copy>> byPoint = new HashMap<>();
    copies.forEach(
        c -> byPoint.computeIfAbsent(c.point(), k -> new ArrayList<>(4)).add(c));
    Map<String, PointSet> sets = new HashMap<>();
    byResource.forEach((resource, own) -> sets.put(resource, PointSet.of(own, byPoint)));
    return over(sets);
  }

  /** The same but for the points of some resources. */
  default PointSource with(Map<String, PointSet> other) {
    PointSource before = this;
    return new PointSource() {
      @Override
      public PointSet of(String resource) {
        PointSet own = other.get(resource);
        return own == null ? before.of(resource) : own;
      }

      @Override
      public boolean any(String resource) {
        return other.containsKey(resource) || before.any(resource);
      }

      @Override
      public void expect(List<String> resources) {
        before.expect(resources);
      }

      @Override
      public PointSource held(List<String> resources) {
        return before.held(resources).with(other);
      }
    };
  }

  private static PointSource over(Map<String, PointSet> sets) {
    return new PointSource() {
      @Override
      public PointSet of(String resource) {
        return sets.getOrDefault(resource, PointSet.EMPTY);
      }

      @Override
      public boolean any(String resource) {
        return sets.containsKey(resource);
      }
    };
  }
}
