package hardproof.core.criteria;

import hardproof.core.estate.Policy;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.Consistency;
import java.util.List;

/** Is the newest point as consistent as it must be? */
final class SoundConsistency extends NewestPointCriterion {
  SoundConsistency() {
    super(
        "Consistency",
        "The newest point is at least as consistent as the tier and its policy demand.",
        List.of("NIST CP-9", "NIST CP-10"),
        Parameter.CONSISTENCY);
  }

  @Override
  Judgement judge(Subject s, Judged j) {
    Consistency demanded = s.demand().consistency();
    String by = "its tier";
    for (Policy policy : s.policies()) {
      if (policy.consistency() != null && policy.consistency().compareTo(demanded) > 0) {
        demanded = policy.consistency();
        by = policy.name();
      }
    }
    return judged(s, j, demanded, by);
  }

  private static Judgement judged(Subject s, Judged j, Consistency demanded, String by) {
    Consistency found = j.point().consistency();
    boolean met = found.compareTo(demanded) >= 0;
    return Judgement.of(
        OutcomeState.metIf(met),
        null,
        null,
        newestOf(j, s) + " is of consistency " + found.code() + "; " + by + " asks for "
            + demanded.code(),
        found.code() + atLeast(met) + demanded.code()
            + " (in rising order: unknown, file, crash, application)",
        fact(j));
  }
}
