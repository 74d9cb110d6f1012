package hardproof.core.criteria;

import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;

/** Is the newest data whose content a drill has shown to be right young enough? */
final class ProofLoss extends ShippedCriterion {
  ProofLoss() {
    super(
        Group.PROOF,
        "Loss by proof",
        "The newest usable point whose content a drill has shown to be right is no older than the tier allows.",
        List.of("NIST CP-9(1)", "NIST CP-4"),
        Parameter.LOSS_BY_PROOF);
  }

  @Override
  Judgement judge(Subject s) {
    Duration allowed = s.demand().duration(Parameter.LOSS_BY_PROOF);
    if (allowed == null) {
      return Judgement.notDemanded();
    }
    ProvenLoss loss = Proof.of(s).loss();
    return loss.loss() == null ? nothing(s, allowed) : judged(s, loss, allowed);
  }

  private static Judgement nothing(Subject s, Duration allowed) {
    return Judgement.of(
        OutcomeState.NOT_MET,
        null,
        Measure.of(allowed),
        "no drill has shown the content of any usable point of " + s.resource().name()
            + " to be right: by proof all of it would be lost",
        "as at − data time of the newest usable point that was drilled with success, demanded ≤ "
            + Wording.duration(allowed) + "; there is none",
        List.of());
  }

  private static Judgement judged(Subject s, ProvenLoss loss, Duration allowed) {
    Duration lost = loss.loss();
    boolean met = lost.compareTo(allowed) <= 0;
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.of(lost),
        Measure.of(allowed),
        "by proof " + Wording.duration(lost) + " would be lost: " + loss.drill().point()
            + " is the newest point whose content was shown to be right, by "
            + loss.drill().method().words() + "; "
            + Wording.duration(lost.minus(allowed).abs()) + (met ? " inside the " : " over the ")
            + Wording.duration(allowed) + " allowed",
        "as at − data time of " + loss.drill().point() + " = " + Wording.duration(lost)
            + atMost(met) + Wording.duration(allowed),
        List.of(new FactRef("drills", loss.drill().run())));
  }
}
