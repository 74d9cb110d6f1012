package hardproof.core.rehearsals;

import hardproof.core.copies.Copy;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.losses.Loss;
import hardproof.core.points.Chain;
import hardproof.core.points.RecoveryPoint;
import java.time.Duration;
import java.util.Comparator;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Whether a claim of survival was tried: a rehearsal of the workload passed that read nothing that the loss takes, so
 * that it would have come off after it just the same.
 */
public final class RehearsedLoss {
  private RehearsedLoss() {}

  /**
   * The newest such rehearsal.
   *
   * @param period how long a rehearsal counts
   * @param rto it counts only when it took no longer
   */
  public static Optional<RehearsalFact> of(
      Estate estate, String workload, Loss loss, Duration period, Duration rto) {
    return estate.rehearsals().of(workload).stream()
        .filter(r -> r.passed() && r.counted().compareTo(rto) <= 0)
        .filter(r -> !r.ended().isBefore(estate.asAt().minus(period)))
        .filter(r -> r.members().stream().allMatch(m -> left(estate, m, loss)))
        .max(Comparator.comparing(RehearsalFact::ended));
  }

  private static boolean left(Estate estate, RehearsalFact.Member member, Loss loss) {
    if (member.run() == null) {
      return true; // It came with another, which is asked.
    }
    Store store = estate.store(member.store());
    DrillFact drill = estate.drillsOf(member.resource()).stream()
        .filter(d -> d.run().equals(member.run()))
        .findFirst()
        .orElse(null);
    if (store == null || drill == null || loss.takes(store)) {
      return false;
    }
    RecoveryPoint point = estate.point(member.resource(), drill.point());
    if (keysLost(estate, member, point, loss) || tainted(estate, point, loss)) {
      return false;
    }
    return !loss.intruder() || outlasted(estate, point, store, loss);
  }

  /** Of a point that is gone by now nothing tells who told of it and of what time it was. */
  private static boolean tainted(Estate estate, @Nullable RecoveryPoint point, Loss loss) {
    if (!loss.taintsAny() || point == null) {
      return loss.taintsAny();
    }
    PointSet own = estate.pointSet(point.resource());
    return Chain.of(point, own::point).points().stream()
        .anyMatch(link -> loss.taints(link.feed(), link.dataTime().toEpochMilli()));
  }

  /** A point that is gone by now may have been encrypted. */
  private static boolean keysLost(
      Estate estate, RehearsalFact.Member member, @Nullable RecoveryPoint point, Loss loss) {
    Resource resource = estate.resource(member.resource());
    return resource != null
        && loss.takesKeys(resource, estate.facts().stores())
        && (point == null || Boolean.TRUE.equals(point.encrypted()));
  }

  /** What a rehearsal read may be gone by now: then nothing tells whether an intruder could have deleted it. */
  private static boolean outlasted(Estate estate, RecoveryPoint point, Store store, Loss loss) {
    if (point == null) {
      return false;
    }
    PointSet own = estate.pointSet(point.resource());
    return Chain.of(point, own::point).points().stream()
        .allMatch(link -> own.copiesOf(link).stream()
            .filter(c -> c.store().equals(store.key()))
            .anyMatch((Copy c) -> Loss.outlasts(c, store, estate.asAt())));
  }
}
