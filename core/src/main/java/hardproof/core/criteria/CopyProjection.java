package hardproof.core.criteria;

import hardproof.core.estate.Policy;
import hardproof.core.estate.Store;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;

/**
 * When a copy that is not there yet will be, if it begins now: its size ÷ the store's throughput, in the hours
 * in which the policy lets copies be made.
 */
final class CopyProjection {
  private static final Duration LONGEST_COPY = Duration.ofDays(3660);

  private CopyProjection() {}

  /** In words that go on with a sentence; empty where it is not known, or will be in time. */
  static Optional<String> of(Subject s, RecoveryPoint point, Policy.CopyTarget target) {
    Store store = s.estate().store(target.store());
    if (store == null || store.throughput() == null || point.sizeBytes() == null) {
      return Optional.empty();
    }
    Duration work = Duration.ofMillis(Math.round(point.sizeBytes() * 1000.0 / store.throughput()));
    String copy = "; the copy of " + point.key() + " to " + store.name();
    Instant done = done(s, target, work).orElse(null);
    if (done == null) {
      return Optional.of(copy + " would take longer than ten years");
    }
    Duration late = Duration.between(point.available().plus(target.deadline()), done);
    return late.isNegative() || late.isZero()
        ? Optional.empty()
        : Optional.of(copy + " will be there at " + Wording.time(done, s.asAt())
            + " at the earliest, " + Wording.duration(late) + " after its deadline");
  }

  private static Optional<Instant> done(Subject s, Policy.CopyTarget target, Duration work) {
    if (work.compareTo(LONGEST_COPY) > 0) {
      return Optional.empty();
    }
    Policy policy = s.policies().stream()
        .filter(p -> p.copyTo().contains(target))
        .findFirst()
        .orElseThrow();
    return policy.copyWindow() == null
        ? Optional.of(s.asAt().plus(work))
        : policy.copyWindow().done(s.asAt(), work, policy.zone());
  }
}
