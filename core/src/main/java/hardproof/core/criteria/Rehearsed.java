package hardproof.core.criteria;

import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.Comparator;
import java.util.Optional;

/**
 * What drills show as members of rehearsals. A rehearsal of the resource's own workload that passed, inside the RTO,
 * shows it rehearsed; one that took longer leaves what the drill shows by itself.
 */
final class Rehearsed {
  private Rehearsed() {}

  static DrillFact lifted(Subject s, DrillFact drill) {
    RehearsalFact rehearsal = s.estate().rehearsals().ofRun(drill.run());
    boolean whole = rehearsal != null
        && rehearsal.passed()
        && rehearsal.workload().equals(s.resource().workload())
        && rehearsal.counted().compareTo(s.demand().rto()) <= 0;
    return whole && drill.reaches().atLeast(byItself(s)) ? drill.reaching(Rung.REHEARSED) : drill;
  }

  /** As much as can be shown of it by itself: one of which nobody asked anything does not count as up. */
  private static Rung byItself(Subject s) {
    return Rung.lower(Rung.RUNNING, s.protector().kind().highestRung());
  }

  /** The newest rehearsal of its workload, inside the proof period, that says something. */
  static Optional<RehearsalFact> newest(Subject s) {
    return s.estate().rehearsals().of(s.resource().workload()).stream()
        .filter(r -> r.outcome() != RehearsalFact.Outcome.INTERRUPTED)
        .filter(r -> !r.ended().isBefore(s.asAt().minus(s.demand().proofPeriod())))
        .max(Comparator.comparing(RehearsalFact::ended));
  }

  /** Why the newest rehearsal does not do; empty where there is none, or rehearsed is not demanded. */
  static String shortfall(Subject s) {
    if (s.demand().rung() != Rung.REHEARSED) {
      return "";
    }
    return newest(s)
        .map(r -> r.failed()
            ? "; the rehearsal of " + Wording.time(r.started(), s.asAt()) + " failed: "
                + r.sentence()
            : overSentence(s, r).map(o -> "; " + o).orElse(""))
        .orElse("; its workload was never rehearsed");
  }

  /** By how much a rehearsal took longer than it may; empty where it did not. */
  static Optional<String> overSentence(Subject s, RehearsalFact r) {
    Duration over = r.counted().minus(s.demand().rto());
    return over.isNegative() || over.isZero()
        ? Optional.empty()
        : Optional.of("the rehearsal of " + Wording.time(r.started(), s.asAt())
            + " had the whole workload back in " + Wording.duration(r.clock()) + ", "
            + (r.counted().equals(r.clock())
                ? ""
                : "but read far less than there is: for all of it " + Wording.duration(r.counted())
                    + " is expected, ")
            + Wording.duration(over) + " over the "
            + Wording.duration(s.demand().rto())
            + " objective");
  }
}
