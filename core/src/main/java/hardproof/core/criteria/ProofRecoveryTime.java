package hardproof.core.criteria;

import hardproof.core.drills.DrillFact;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;
import java.util.Optional;

/** Does a restore take no longer than it may? */
final class ProofRecoveryTime extends ShippedCriterion {
  ProofRecoveryTime() {
    super(
        Group.PROOF,
        "Recovery time within the RTO",
        "The newest restore that passed took at most the RTO.",
        List.of("NIST CP-10", "NIST CP-10(4)", "CSF RC.RP-03"),
        Parameter.RTO);
  }

  @Override
  Judgement judge(Subject s) {
    Optional<DrillFact> last = s.estate().drillsOf(s.protector().key()).stream()
        .filter(d -> d.passed() && d.rung().atLeast(Rung.RESTORED))
        .reduce((a, b) -> b);
    if (last.isEmpty()) {
      return Judgement.unknown(
          "how long a restore of " + s.resource().name() + " takes was never measured",
          "restores that passed = 0");
    }
    return judged(s, last);
  }

  private static Judgement judged(Subject s, Optional<DrillFact> last) {
    Duration took = last.get().took();
    Duration rto = s.demand().rto();
    boolean met = took.compareTo(rto) <= 0;
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.of(took),
        Measure.of(rto),
        "the restore of " + Wording.time(last.get().ended(), s.asAt()) + " took "
            + Wording.duration(took) + read(last.get()) + ", "
            + Wording.duration(took.minus(rto).abs())
            + (met ? " inside the " : " over the ") + Wording.duration(rto)
            + " objective; this resource alone, not its whole workload",
        "end − start of the newest restore that passed = " + Wording.duration(took) + atMost(met)
            + "RTO " + Wording.duration(rto),
        List.of(new FactRef("drills", last.get().run())));
  }

  /** A time says little without the size that it was measured on. */
  private static String read(DrillFact drill) {
    return drill.bytes() == 0 ? "" : " for " + Wording.bytes(drill.bytes()) + " read";
  }
}
