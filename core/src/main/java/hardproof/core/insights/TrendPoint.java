package hardproof.core.insights;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.facts.PointSet;
import hardproof.core.points.RecoveryPoint;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What was stored at an instant.
 *
 * @param bytes of all copies that are present, as far as sizes are known
 * @param medianReach of the resources that have points; null when none has
 */
public record TrendPoint(
    Instant at, long points, long bytes, @Nullable Duration medianReach) {
  private static final int POINTS = 9;

  /** At instants equally far apart, both ends among them. */
  static List<TrendPoint> of(List<PointSet> sets, Period period) {
    List<TrendPoint> trend = new ArrayList<>();
    long step = Duration.between(period.from(), period.to()).toMillis() / (POINTS - 1);
    for (int i = 0; i < POINTS; i++) {
      trend.add(at(sets, i == POINTS - 1 ? period.to() : period.from().plusMillis(step * i)));
    }
    return trend;
  }

  private static TrendPoint at(List<PointSet> sets, Instant at) {
    long points = 0;
    long bytes = 0;
    List<Duration> reaches = new ArrayList<>();
    for (PointSet set : sets) {
      Instant oldest = null;
      for (RecoveryPoint p : set.points()) {
        long copies = set.copiesOf(p).stream().filter(c -> thereAt(c, at)).count();
        if (copies > 0) {
          points++;
          bytes += p.sizeBytes() == null ? 0 : p.sizeBytes() * copies;
          oldest = oldest == null ? p.dataTime() : oldest;
        }
      }
      if (oldest != null) {
        reaches.add(Duration.between(oldest, at));
      }
    }
    reaches.sort(Comparator.naturalOrder());
    Duration median = reaches.isEmpty() ? null : reaches.get(reaches.size() / 2);
    return new TrendPoint(at, points, bytes, median);
  }

  private static boolean thereAt(Copy copy, Instant at) {
    return copy.finished() != null
        && !copy.finished().isAfter(at)
        && (copy.state() == CopyState.PRESENT || copy.recordedAt().isAfter(at))
        && (copy.expires() == null || copy.expires().isAfter(at));
  }
}
