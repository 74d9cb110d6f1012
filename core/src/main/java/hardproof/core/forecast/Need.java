package hardproof.core.forecast;

import hardproof.core.criteria.Proof;
import hardproof.core.ladder.Rung;
import hardproof.core.proof.ResourceResult;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/** A proof that is demanded of a resource, as the nights pass. For one forecast. */
final class Need {
  final ResourceResult of;
  final Rung demanded;
  final long periodMs;
  private final long leadMs;

  /** When the proof lapses; {@link #NONE} where there is none to lapse. */
  long lapses;

  static final long NONE = Long.MIN_VALUE;

  Need(ResourceResult of) {
    this.of = of;
    Proof proof = of.proof();
    this.demanded = proof.demanded();
    this.periodMs = of.demand().proofPeriod().toMillis();
    this.leadMs = lead(of.demand().proofPeriod()).toMillis();
    this.lapses = proof.demandReachedInPeriod() && proof.lapses() != null && !failedLast()
        ? proof.lapses().toEpochMilli()
        : NONE;
  }

  /** A proof counts for nothing while the newest drill failed. */
  boolean failedLast() {
    return of.lastDrill() != null && of.lastDrill().failed();
  }

  boolean proven() {
    return lapses != NONE;
  }

  /** Nobody drills earlier than this what is proven still. */
  long soon() {
    return lapses - leadMs;
  }

  /** So long before a proof lapses it may be renewed: a fifth of its period, and two nights at least. */
  static Duration lead(Duration period) {
    Duration fifth = period.dividedBy(5);
    Duration two = Duration.ofDays(2);
    return fifth.compareTo(two) < 0 ? two : fifth;
  }

  /** Its place among those that want the same night. */
  @Nullable
  Long neededBy() {
    return proven() ? lapses : null;
  }
}
