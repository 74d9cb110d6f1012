package hardproof.core.criteria;

import hardproof.core.drills.DrillFact;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/** A failed read-back is not looked for here: it makes its copy unusable, which others judge. */
final class ProofReadBack extends ShippedCriterion {
  ProofReadBack() {
    super(
        Group.PROOF,
        "Read back in time",
        "A copy was read back whole, or drilled, within the time that the tier allows.",
        List.of("NIST CP-9(1)", "CIS 11.5"),
        Parameter.READ_BACK_AGE);
  }

  @Override
  Judgement judge(Subject s) {
    Duration allowed = s.demand().duration(Parameter.READ_BACK_AGE);
    if (allowed == null) {
      return Judgement.notDemanded();
    }
    Instant last = null;
    FactRef fact = null;
    int newest = s.set().copies().newestRead(true);
    if (newest >= 0) {
      last = Instant.ofEpochMilli(s.set().copies().lastRead(newest));
      fact = new FactRef("points", s.set().copies().at(newest).point());
    }
    for (DrillFact drill : s.estate().drillsOf(s.protector().key())) {
      boolean read = drill.passed() && drill.rung().atLeast(Rung.INTACT);
      if (read && (last == null || drill.ended().isAfter(last))) {
        last = drill.ended();
        fact = new FactRef("drills", drill.run());
      }
    }
    if (last == null) {
      return Judgement.of(
          OutcomeState.NOT_MET,
          null,
          Measure.of(allowed),
          "no copy of " + s.resource().name() + " was ever read back whole",
          "as at − newest read-back or drill that passed, demanded ≤ " + Wording.duration(allowed)
              + "; there is none",
          List.of());
    }
    return Judgement.within(
        s,
        last,
        allowed,
        "a copy of " + s.resource().name() + " was last read back whole",
        "newest read-back",
        fact);
  }
}
