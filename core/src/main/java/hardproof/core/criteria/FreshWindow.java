package hardproof.core.criteria;

import hardproof.core.estate.Policy;
import hardproof.core.schedule.RunTimes;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;

/** Can a late start still end in time? */
final class FreshWindow extends ShippedCriterion {
  FreshWindow() {
    super(
        Group.FRESHNESS,
        "Window is feasible",
        "A job that begins at the end of its start window can be done by its deadline.",
        List.of("NIST CP-9"));
  }

  @Override
  Judgement judge(Subject s) {
    List<Policy> windows = s.policies().stream()
        .filter(p -> p.startWindow() != null && p.completeWithin() != null)
        .toList();
    if (windows.isEmpty()) {
      return Judgement.notAsked("no policy of it has both a start window and a time to be done in");
    }
    RunTimes usual = s.runTimes();
    if (usual == null) {
      return Judgement.unknown("how long a run takes is not known yet", "runs = 0");
    }
    Policy tightest = tightest(windows);
    return judged(usual, tightest);
  }

  private static Policy tightest(List<Policy> windows) {
    return windows.stream()
        .max(Comparator.comparing(p -> p.startWindow().minus(p.completeWithin())))
        .orElseThrow();
  }

  private static Judgement judged(RunTimes usual, Policy tightest) {
    Duration sum = tightest.startWindow().plus(usual.median());
    boolean met = sum.compareTo(tightest.completeWithin()) <= 0;
    Duration margin = tightest.completeWithin().minus(sum).abs();
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.of(sum),
        Measure.of(tightest.completeWithin()),
        "a job of " + tightest.name() + " may begin "
            + Wording.duration(tightest.startWindow()) + " late and usually takes "
            + Wording.duration(usual.median()) + ": done after " + Wording.duration(sum) + ", "
            + Wording.duration(margin)
            + (met ? " before it has to be" : " after it has to be: such jobs must fail"),
        "start window " + Wording.duration(tightest.startWindow()) + " + median run "
            + Wording.duration(usual.median()) + " = " + Wording.duration(sum)
            + atMost(met) + "complete within " + Wording.duration(tightest.completeWithin()),
        List.of(new FactRef("policies", tightest.key())));
  }
}
