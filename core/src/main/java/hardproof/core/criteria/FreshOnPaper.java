package hardproof.core.criteria;

import hardproof.core.estate.Policy;
import hardproof.core.schedule.RunTimes;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Can the schedule keep the objective at all? */
final class FreshOnPaper extends ShippedCriterion {
  FreshOnPaper() {
    super(
        Group.FRESHNESS,
        "Schedule can meet the RPO",
        "The longest gap between starts and the usual run time together are at most the RPO.",
        List.of("NIST CP-9", "NIST SP 800-34 r1"),
        Parameter.RPO);
  }

  @Override
  Judgement judge(Subject s) {
    if (s.policies().isEmpty()) {
      return Judgement.notAsked("no policy has it in scope: there is no schedule to judge");
    }
    Optional<Promise> best = best(s);
    Duration rpo = s.demand().rpo();
    if (best.isEmpty()) {
      return Judgement.unknown(
          "no policy of it states a schedule that starts twice", "schedules = 0");
    }
    Duration gap = best.get().gap();
    RunTimes usual = s.runTimes();
    if (usual == null && gap.compareTo(rpo) <= 0) {
      return runTimeUnknown(best, gap);
    }
    Duration run = usual == null ? Duration.ZERO : usual.median();
    Duration sum = gap.plus(run);
    boolean met = sum.compareTo(rpo) <= 0;
    Duration slow = usual == null ? sum : gap.plus(usual.p95());
    String sentence = "the schedule of " + best.get().policy().name() + " leaves at the longest "
        + Wording.duration(gap) + " between starts and a run usually takes " + Wording.duration(run)
        + ": " + Wording.duration(sum) + ", "
        + Wording.duration(sum.minus(rpo).abs())
        + (met ? " inside the " : " over the ") + Wording.duration(rpo) + " objective"
        + (met
            ? slow.compareTo(rpo) > 0
                ? "; 1 run in 20 takes " + Wording.duration(usual.p95()) + ", which is over it"
                : ""
            : "; it can never be met on this schedule");
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.of(sum),
        Measure.of(rpo),
        sentence,
        "longest gap " + Wording.duration(gap) + " + median run " + Wording.duration(run)
            + (usual == null ? "" : " (of " + Wording.count(usual.runs(), "run", "runs") + ")")
            + " = " + Wording.duration(sum) + atMost(met) + "RPO " + Wording.duration(rpo)
            + "; with the 95th percentile " + Wording.duration(slow),
        List.of(new FactRef("policies", best.get().policy().key())));
  }

  private static Judgement runTimeUnknown(Optional<Promise> best, Duration gap) {
    return Judgement.unknown(
        "the schedule of " + best.get().policy().name() + " starts every " + Wording.duration(gap)
            + " at the longest; how long a run takes is not known yet",
        "longest gap " + Wording.duration(gap) + " + usual run time, not known");
  }

  private record Promise(Policy policy, Duration gap) {}

  /** Of several policies the one that promises the most counts. */
  private static Optional<Promise> best(Subject s) {
    return s.policies().stream()
        .flatMap(p -> p.longestGap(s.asAt()).map(g -> new Promise(p, g)).stream())
        .min(Comparator.comparing(Promise::gap));
  }
}
