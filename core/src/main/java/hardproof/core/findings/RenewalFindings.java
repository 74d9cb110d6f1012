package hardproof.core.findings;

import hardproof.core.criteria.FactRef;
import hardproof.core.forecast.Forecast;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;

/** Proofs that are demanded and that no programme will renew in time. */
final class RenewalFindings {
  private RenewalFindings() {}

  static Finding of(Forecast.Gap gap, Evaluation evaluation) {
    ResourceResult member = evaluation.resource(gap.resource());
    WorkloadResult workload = evaluation.workloadOf(member);
    String period = Wording.duration(member.demand().proofPeriod());
    Duration left = Duration.between(evaluation.asAt(), gap.from());
    return new Finding(
        FindingCode.PROOF_NOT_RENEWED,
        About.of(workload, member),
        false,
        (gap.lapsing()
                ? "the proof of " + gap.name() + " lapses in " + Wording.duration(left)
                : gap.name() + " is not proven")
            + " and nothing will renew it: " + gap.sentence(),
        gap.lapsing() ? Wording.duration(left) : "not proven",
        member.proof().demanded().code() + " every " + period,
        1,
        List.of(new FactRef("resources", gap.resource())),
        null);
  }
}
