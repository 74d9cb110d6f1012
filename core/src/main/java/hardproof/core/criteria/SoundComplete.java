package hardproof.core.criteria;

import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.PointOutcome;
import hardproof.core.wording.Wording;
import java.util.List;

/** Does the newest point say that it is complete? */
final class SoundComplete extends NewestPointCriterion {
  SoundComplete() {
    super("Newest point complete", "The newest point's outcome is complete.", List.of("NIST CP-9"));
  }

  @Override
  boolean urgent() {
    return true;
  }

  @Override
  Judgement judge(Subject s, Judged j) {
    PointOutcome found = j.point().outcome();
    return Judgement.of(
        OutcomeState.metIf(found == PointOutcome.COMPLETE),
        null,
        null,
        "the newest point, of " + Wording.time(j.point().dataTime(), s.asAt()) + ", is "
            + found.code(),
        "outcome = " + found.code() + "; complete is demanded",
        List.of(new FactRef("points", j.point().key())));
  }
}
