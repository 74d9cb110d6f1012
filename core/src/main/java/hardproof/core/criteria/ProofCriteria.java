package hardproof.core.criteria;

import static hardproof.core.criteria.Criteria.metIf;
import static hardproof.core.criteria.Criteria.outcome;

import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;
import java.util.Optional;

/** What drills have shown. */
final class ProofCriteria {
  private ProofCriteria() {}

  static Outcome age(Subject s) {
    Proof proof = Proof.of(s);
    Duration allowed = s.demand().proofPeriod();
    if (proof.reached() == null) {
      return outcome(
          CriterionCode.PROOF_AGE,
          s,
          OutcomeState.NOT_MET,
          null,
          Measure.of(allowed),
          proof.sentence(s),
          "drills that reached " + proof.demanded().code() + " = 0",
          proof.facts());
    }
    Duration age = Duration.between(proof.reached().ended(), s.asAt());
    return outcome(
        CriterionCode.PROOF_AGE,
        s,
        metIf(age.compareTo(allowed) <= 0),
        Measure.of(age),
        Measure.of(allowed),
        proof.sentence(s),
        "as at − end of the newest drill that reached " + proof.demanded().code() + " = "
            + Wording.duration(age) + " ≤ proof period " + Wording.duration(allowed),
        proof.facts());
  }

  static Outcome lastDrill(Subject s) {
    Optional<DrillFact> last = Proof.lastDecided(s);
    if (last.isEmpty()) {
      return outcome(
          CriterionCode.PROOF_LAST_DRILL,
          s,
          OutcomeState.NOT_ENOUGH_DATA,
          null,
          null,
          s.resource().name() + " was never drilled",
          "drills = 0",
          List.of());
    }
    DrillFact drill = last.get();
    return outcome(
        CriterionCode.PROOF_LAST_DRILL,
        s,
        metIf(drill.passed()),
        null,
        null,
        "the drill of " + Wording.time(drill.ended(), s.asAt())
            + (drill.passed() ? " passed: " : " failed: ") + drill.sentence(),
        "restore = " + drill.restore().code() + ", checks = " + drill.checks().code()
            + "; done and passed are demanded",
        List.of(new FactRef("drills", drill.run())));
  }

  static Outcome cleanUp(Subject s) {
    List<DrillFact> left = s.estate().drillsOf(s.protector().key()).stream()
        .filter(d -> d.cleanup() == CleanupState.FAILED)
        .toList();
    return outcome(
        CriterionCode.PROOF_CLEAN_UP,
        s,
        metIf(left.isEmpty()),
        Measure.count(left.size()),
        Measure.count(0),
        left.isEmpty()
            ? "no drill left restored data behind"
            : Wording.count(left.size(), "drill", "drills") + " left restored data behind",
        "runs whose clean-up failed = " + left.size() + " ≤ 0",
        left.stream().map(d -> new FactRef("drills", d.run())).toList());
  }
}
