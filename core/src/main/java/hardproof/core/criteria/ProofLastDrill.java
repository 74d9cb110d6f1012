package hardproof.core.criteria;

import hardproof.core.drills.DrillFact;
import hardproof.core.wording.Wording;
import java.util.List;
import java.util.Optional;

/** Did the newest drill pass? */
final class ProofLastDrill extends ShippedCriterion {
  ProofLastDrill() {
    super(
        Group.PROOF,
        "Last drill passed",
        "The newest drill passed.",
        List.of("NIST CP-9(1)", "CIS 11.5"));
  }

  @Override
  boolean urgent() {
    return true;
  }

  @Override
  Judgement judge(Subject s) {
    Optional<DrillFact> last = Proof.lastDecided(s);
    if (last.isEmpty()) {
      return neverDrilled(s);
    }
    return judged(s, last);
  }

  private static Judgement neverDrilled(Subject s) {
    return Judgement.of(
        OutcomeState.NOT_ENOUGH_DATA,
        null,
        null,
        s.resource().name() + " was never drilled",
        "drills = 0",
        List.of());
  }

  private static Judgement judged(Subject s, Optional<DrillFact> last) {
    DrillFact drill = last.get();
    return Judgement.of(
        OutcomeState.metIf(drill.passed()),
        null,
        null,
        "the drill of " + Wording.time(drill.ended(), s.asAt())
            + (drill.passed() ? " passed: " : " failed: ") + drill.sentence(),
        "restore = " + drill.restore().code() + ", checks = " + drill.checks().code()
            + "; done and passed are demanded",
        List.of(new FactRef("drills", drill.run())));
  }
}
