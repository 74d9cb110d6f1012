package hardproof.core.insights;

import hardproof.core.criteria.Subject;
import hardproof.core.drills.DrillFact;
import hardproof.core.ladder.Rung;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A proof that began or ended. */
public record ProofChange(
    String resource, String name, @Nullable Integer tier, Rung rung, Instant at) {
  static final Comparator<ProofChange> BY_TIME =
      Comparator.comparing(ProofChange::at).thenComparing(ProofChange::resource);

  private static ProofChange of(Subject s, Rung rung, Instant at) {
    Integer tier = s.workload() == null ? null : s.workload().tier();
    return new ProofChange(s.resource().key(), s.resource().name(), tier, rung, at);
  }

  /**
   * @param gained takes the proofs of the subject that began in the period
   * @param lapsed takes those that ended without another in time
   */
  static void add(Subject s, Period period, List<ProofChange> gained, List<ProofChange> lapsed) {
    Rung demanded = s.resource().kind().demanded(s.demand().rung());
    Instant provenUntil = null;
    for (DrillFact drill : s.estate().drillsOf(s.protector().key())) {
      if (!drill.passed() || !drill.rung().atLeast(demanded)) {
        continue;
      }
      Instant at = drill.ended();
      boolean begins = provenUntil == null || at.isAfter(provenUntil);
      if (begins && provenUntil != null && period.holds(provenUntil)) {
        lapsed.add(of(s, demanded, provenUntil));
      }
      if (begins && period.holds(at)) {
        gained.add(of(s, drill.rung(), at));
      }
      provenUntil = at.plus(s.demand().proofPeriod());
    }
    if (provenUntil != null && period.holds(provenUntil)) {
      lapsed.add(of(s, demanded, provenUntil));
    }
  }
}
