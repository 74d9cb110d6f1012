package hardproof.core.criteria;

import hardproof.core.census.CensusFact;
import hardproof.core.census.CensusState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.ladder.Rung;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What the drills of a resource prove.
 *
 * @param rung of the best drill inside the proof period; claimed when there is only a complete
 *     point; null when there is not even that
 * @param demanded the rung the tier demands, as far as it has a meaning for the kind
 * @param best the newest of the drills that reached {@code rung} in the period; null when none
 * @param reached the newest drill ever that reached the demanded rung; null when none
 * @param loss what would be lost if only what drills have shown counted
 */
public record Proof(
    @Nullable Rung rung,
    Rung demanded,
    @Nullable DrillFact best,
    @Nullable DrillFact reached,
    Instant lapses,
    ProvenLoss loss) {

  public static Proof of(Subject s) {
    Rung demanded = s.resource().kind().demanded(s.demand().rung());
    Instant oldest = s.asAt().minus(s.demand().proofPeriod());
    Stream<DrillFact> held = s.estate().censusOf(s.protector().key()).stream()
        .filter(c -> c.state() == CensusState.HELD)
        .map(CensusFact::asDrill);
    List<DrillFact> counting = Stream.concat(
            held, s.estate().drillsOf(s.protector().key()).stream())
        .filter(DrillFact::passed)
        .filter(d -> counts(s, d))
        .map(d -> Rehearsed.lifted(s, d))
        .toList();
    DrillFact best = bestSince(oldest, counting);
    DrillFact reached = newestReaching(demanded, counting);
    boolean claimed = IntStream.range(0, s.set().size())
        .anyMatch(row -> s.set().outcome(row) == PointOutcome.COMPLETE);
    Rung rung = best != null ? best.rung() : claimed ? Rung.CLAIMED : null;
    Instant lapses = reached == null ? null : reached.ended().plus(s.demand().proofPeriod());
    return new Proof(rung, demanded, best, reached, lapses, ProvenLoss.of(s, demanded));
  }

  /** The drills that passed, count, and are inside the proof period. */
  public static List<DrillFact> inPeriod(Subject s) {
    Instant oldest = s.asAt().minus(s.demand().proofPeriod());
    return s.estate().drillsOf(s.protector().key()).stream()
        .filter(d -> d.passed() && !d.ended().isBefore(oldest) && counts(s, d))
        .map(d -> Rehearsed.lifted(s, d))
        .toList();
  }

  private static DrillFact bestSince(Instant oldest, List<DrillFact> counting) {
    return counting.stream()
        .filter(d -> !d.ended().isBefore(oldest))
        .max(Comparator.comparing(DrillFact::rung).thenComparing(DrillFact::ended))
        .orElse(null);
  }

  private static DrillFact newestReaching(Rung demanded, List<DrillFact> counting) {
    return counting.stream()
        .filter(d -> d.rung().atLeast(demanded))
        .max(Comparator.comparing(DrillFact::ended))
        .orElse(null);
  }

  /**
   * A drill counts when its point met the critical criteria: complete and consistent enough. A
   * point whose facts have since been forgotten by its feed counts as it did.
   */
  private static boolean counts(Subject s, DrillFact drill) {
    RecoveryPoint point = s.estate().point(drill.resource(), drill.point());
    return point == null
        || (point.outcome() == PointOutcome.COMPLETE
            && point.consistency().compareTo(s.demand().consistency()) >= 0);
  }

  /**
   * The newest drill that says something about the data. That one artifact of a sweep was as written
   * takes nothing back of what a drill found; that it was not counts.
   */
  public static Optional<DrillFact> lastDecided(Subject s) {
    return s.estate().drillsOf(s.protector().key()).stream()
        .filter(d -> d.failed() || d.passed() && d.method() != Method.READ_BACK)
        .reduce((a, b) -> b);
  }

  public boolean demandReachedInPeriod() {
    return rung != null && rung.atLeast(demanded);
  }

  /** Reached once, and that is longer ago than the proof period. */
  public boolean lapsed() {
    return reached != null && !demandReachedInPeriod();
  }

  public String sentence(Subject s) {
    if (reached != null) {
      return reachedSentence(s);
    }
    String name = s.resource().name();
    if (best == null) {
      return name
          + (lastDecided(s).isPresent() ? " has passed no drill; " : " was never drilled; ")
          + demanded.code() + " demanded";
    }
    return name + " was shown " + best.rung().code() + " only; " + demanded.code() + " demanded"
        + Rehearsed.shortfall(s);
  }

  private String reachedSentence(Subject s) {
    Duration age = Duration.between(reached.ended(), s.asAt());
    Duration allowed = s.demand().proofPeriod();
    return lapsed()
        ? "proof is " + Wording.duration(age) + " old, " + Wording.duration(allowed)
            + " allowed; lapsed " + Wording.duration(age.minus(allowed)) + " ago"
        : reached.rung().code() + ", drilled " + Wording.duration(age) + " ago; lapses in "
            + Wording.duration(Duration.between(s.asAt(), lapses));
  }

  /** The drill it rests on; empty when there is none. */
  public List<FactRef> facts() {
    DrillFact drill = reached != null ? reached : best;
    return drill == null || drill.method() == Method.CENSUS
        ? List.of()
        : List.of(new FactRef("drills", drill.run()));
  }
}
