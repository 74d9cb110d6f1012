package hardproof.core.points;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * The points that must be restored one after another to reach a point, the full first.
 *
 * @param points from the full (or, where broken, from the first that could be found) to the point
 * @param breakSentence why it is broken, null when whole
 */
public record Chain(List<RecoveryPoint> points, @Nullable String breakSentence) {
  public Chain {
    points = List.copyOf(points);
  }

  public boolean whole() {
    return breakSentence == null;
  }

  /** Number of points in the chain; 1 for a full. */
  public int length() {
    return points.size();
  }

  /**
   * Follows based-on from {@code point}.
   *
   * @param lookup the point with a key, null when it is not known
   */
  public static Chain of(RecoveryPoint point, Function<String, RecoveryPoint> lookup) {
    if (point.basedOn() == null && point.form().standsAlone()) {
      return new Chain(List.of(point), null);
    }
    Deque<RecoveryPoint> points = new ArrayDeque<>();
    Set<String> seen = new HashSet<>();
    RecoveryPoint at = point;
    while (true) {
      if (!seen.add(at.key())) {
        return new Chain(List.copyOf(points), "the chain goes in a circle at " + at.key());
      }
      points.addFirst(at);
      if (at.basedOn() == null) {
        return at.form().standsAlone()
            ? new Chain(List.copyOf(points), null)
            : new Chain(
                List.copyOf(points),
                at.key() + " is " + at.form().code() + " and names no point that it is based on");
      }
      RecoveryPoint base = lookup.apply(at.basedOn());
      if (base == null) {
        return new Chain(
            List.copyOf(points), at.key() + " is based on " + at.basedOn() + ", which is missing");
      }
      at = base;
    }
  }
}
