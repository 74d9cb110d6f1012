package hardproof.core.policies;

import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Usability;
import hardproof.core.points.Consistency;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.retention.Retention;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What of a resource's usable points leaves when, under the first of its policies that states how long
 * points are kept, if new points go on coming. Pure.
 *
 * @param policy null when none states it; then nothing says when a point goes
 * @param leaving oldest data first
 */
public record NextToGo(@Nullable Policy policy, List<Leaving> leaving) {
  /** A point and when it leaves; null when nothing says so. */
  public record Leaving(RecoveryPoint point, Instant leaves) {}

  /**
   * What leaves next of what is usable as at the estate's instant; of a member inside an image, the
   * points are those of its protector.
   */
  public static NextToGo of(Resource resource, Estate estate) {
    Resource protector = estate.protectorOf(resource);
    Policy policy = stating(estate, protector);
    List<RecoveryPoint> newestFirst = usableNewestFirst(estate, protector);
    List<Instant> leaves = leaves(estate, policy, newestFirst);
    List<Leaving> leaving = new ArrayList<>();
    for (int i = newestFirst.size() - 1; i >= 0; i--) {
      leaving.add(new Leaving(newestFirst.get(i), leaves.get(i)));
    }
    return new NextToGo(policy, leaving);
  }

  private static Policy stating(Estate estate, Resource protector) {
    return estate.policiesOf(protector).stream()
        .filter(p -> p.retention().stated())
        .findFirst()
        .orElse(null);
  }

  private static List<RecoveryPoint> usableNewestFirst(Estate estate, Resource protector) {
    List<RecoveryPoint> newestFirst = new ArrayList<>();
    for (Usability.Judged j :
        Usability.of(estate, protector.key(), Consistency.UNKNOWN).points()) {
      if (j.usableAt(estate.asAt())) {
        newestFirst.add(j.point());
      }
    }
    Collections.reverse(newestFirst);
    return newestFirst;
  }

  private static List<Instant> leaves(
      Estate estate, Policy policy, List<RecoveryPoint> newestFirst) {
    return policy == null
        ? Collections.nCopies(newestFirst.size(), null)
        : policy
            .retention()
            .leaves(
                newestFirst.stream().map(RecoveryPoint::dataTime).toList(),
                policy.longestGap(estate.asAt()).orElse(null),
                estate.asAt(),
                policy.zone());
  }

  /** How far back what is left reaches on a day to come; null when nothing is left. */
  public Duration reachOn(Instant day) {
    return Retention.reachOn(
        day,
        leaving.stream().map(l -> l.point().dataTime()).toList(),
        leaving.stream().map(Leaving::leaves).toList());
  }
}
