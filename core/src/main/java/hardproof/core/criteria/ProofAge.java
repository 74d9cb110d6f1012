package hardproof.core.criteria;

import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;

/** Was it drilled, high enough and lately enough? */
final class ProofAge extends ShippedCriterion {
  ProofAge() {
    super(
        Group.PROOF,
        "Drilled in time",
        "A drill that reaches the demanded rung passed within the proof period.",
        List.of("NIST CP-9(1)", "NIST CP-4", "CIS 11.5"),
        Parameter.RUNG,
        Parameter.PROOF_PERIOD);
  }

  @Override
  Judgement judge(Subject s) {
    Proof proof = Proof.of(s);
    Duration allowed = s.demand().proofPeriod();
    if (proof.reached() == null) {
      return neverReached(s, proof, allowed);
    }
    return judged(s, proof, allowed);
  }

  private static Judgement neverReached(Subject s, Proof proof, Duration allowed) {
    return Judgement.of(
        OutcomeState.NOT_MET,
        null,
        Measure.of(allowed),
        proof.sentence(s),
        "as at − end of the newest drill that reached " + proof.demanded().code() + ", demanded ≤ "
            + Wording.duration(allowed) + "; there is none",
        proof.facts());
  }

  private static Judgement judged(Subject s, Proof proof, Duration allowed) {
    Duration age = Duration.between(proof.reached().ended(), s.asAt());
    boolean met = age.compareTo(allowed) <= 0;
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.of(age),
        Measure.of(allowed),
        proof.sentence(s),
        "as at − end of the newest drill that reached " + proof.demanded().code() + " = "
            + Wording.duration(age) + atMost(met) + "proof period " + Wording.duration(allowed),
        proof.facts());
  }
}
