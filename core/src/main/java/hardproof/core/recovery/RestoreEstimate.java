package hardproof.core.recovery;

import hardproof.core.copies.CopyState;
import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Chain;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * How long it would take to have a resource back from its newest usable point, alone and without its workload.
 *
 * @param method by which it is restored
 * @param estimate null where nothing says
 */
public record RestoreEstimate(Method method, @Nullable TimeEstimate estimate) {
  /** A drill that read less than this share of what there is may have left out most of the work. */
  private static final int SMALL = 20;

  /**
   * Empty where it has no usable point, so that there is nothing to have back.
   *
   * @param protector the resource whose points protect it
   * @param demanded the rung that is demanded; at least a restore is estimated
   */
  public static Optional<RestoreEstimate> of(
      Estate estate, TimeEstimates estimates, Resource protector, Rung demanded) {
    return Usability.newest(estate, protector.key())
        .map(point -> of(estate, estimates, protector, demanded, point));
  }

  private static RestoreEstimate of(
      Estate estate,
      TimeEstimates estimates,
      Resource protector,
      Rung demanded,
      RecoveryPoint point) {
    Method method = Method.restoring(protector.kind(), demanded);
    PointSet own = estate.pointSet(protector.key());
    String store = own.copiesOf(point).stream()
        .filter(c -> c.state() == CopyState.PRESENT)
        .map(c -> c.store())
        .findFirst()
        .orElse("");
    long read = chainBytes(own, point);
    return new RestoreEstimate(
        method, estimates.of(protector, store, method, whole(protector, read)).orElse(null));
  }

  /** Bytes of a point and of all that it hangs from; 0 where they are not known. */
  public static long chainBytes(PointSet own, RecoveryPoint point) {
    return Chain.of(point, own::point).points().stream()
        .mapToLong(p -> p.sizeBytes() == null ? 0 : p.sizeBytes())
        .sum();
  }

  /**
   * What would have to be restored: what the resource holds, where artifacts are too small to be all of it even when
   * packed; else as much as they are.
   *
   * @param read bytes of artifacts
   */
  public static long whole(Resource protector, long read) {
    Long holds = protector.sizeBytes();
    return holds != null && read < holds / SMALL ? holds : read;
  }

  /** For people, beside what is allowed. */
  public String words(Duration rto) {
    if (estimate == null) {
      return "how long it takes to have it back is not known: neither it nor one of its kind was restored"
          + " from there, and nothing says what its store reads";
    }
    Duration over = estimate.p95().minus(rto);
    boolean often = estimate.median().compareTo(rto) > 0;
    String beside = over.isNegative() || over.isZero()
        ? Wording.duration(over.abs()) + " inside the RTO"
        : often
            ? Wording.duration(estimate.median().minus(rto)) + " over the RTO"
            : "now and then over the RTO";
    return estimate.words() + "; " + beside + " of " + Wording.duration(rto);
  }
}
