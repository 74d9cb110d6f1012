package hardproof.core.criteria;

import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.wording.Wording;
import java.util.List;

/** Was all that was restored taken away again? */
final class ProofCleanUp extends ShippedCriterion {
  ProofCleanUp() {
    super(
        Group.PROOF,
        "Sandboxes cleaned up",
        "No restored data was left behind.",
        List.of("ISO A.8.13"));
  }

  @Override
  Judgement judge(Subject s) {
    List<DrillFact> left = s.estate().drillsOf(s.protector().key()).stream()
        .filter(d -> d.cleanup() == CleanupState.FAILED)
        .toList();
    return Judgement.of(
        OutcomeState.metIf(left.isEmpty()),
        Measure.count(left.size()),
        Measure.count(0),
        left.isEmpty()
            ? "no drill left restored data behind"
            : Wording.count(left.size(), "drill", "drills") + " left restored data behind",
        "runs whose clean-up failed = " + left.size() + atMost(left.isEmpty()) + "0",
        left.stream().map(d -> new FactRef("drills", d.run())).toList());
  }
}
