package hardproof.core.criteria;

import hardproof.core.facts.Usability.Judged;
import hardproof.core.wording.Wording;
import java.util.List;

/** Did the step before the newest point run? */
final class SoundPreStep extends NewestPointCriterion {
  SoundPreStep() {
    super(
        "Pre-step ran",
        "The step before the newest point (a checkpoint, telling the application) ran.",
        List.of("NIST CP-9"),
        Parameter.PRE_STEP);
  }

  @Override
  boolean asked(TierDemand demand) {
    return demand.demands(Parameter.PRE_STEP);
  }

  @Override
  Judgement judge(Subject s, Judged j) {
    if (j.point().preStep() == null) {
      return Judgement.notAsked("no step before its points is known");
    }
    int without = withoutStep(s);
    return Judgement.of(
        OutcomeState.metIf(without == 0),
        Measure.count(without),
        Measure.count(0),
        sentence(s, without),
        "newest points in a row without their pre-step = " + without + atMost(without == 0) + "0",
        fact(j));
  }

  private static int withoutStep(Subject s) {
    int without = 0;
    for (int row = s.set().size() - 1; row >= 0; row--) {
      if (s.set().preStep(row) != 0) {
        break;
      }
      without++;
    }
    return without;
  }

  private static String sentence(Subject s, int without) {
    return without == 0
        ? "the step before the newest point ran"
        : without == s.points().size() && without > 1
            ? "the step before it has never run, for any of its " + without + " points"
            : "the step before it did not run for the last "
                + Wording.count(without, "point", "points");
  }
}
