package hardproof.core.criteria;

import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Was something that a restore needs besides the data tried lately enough? */
abstract class TriedCriterion extends ShippedCriterion {
  private final Parameter within;

  TriedCriterion(String title, String demand, List<String> controls, Parameter within) {
    super(Group.COVER, title, demand, controls, within);
    this.within = within;
  }

  /** What it is called in sentences. */
  abstract String what();

  /** Which one it is; null where nobody said. */
  abstract @Nullable String which(Subject s);

  abstract @Nullable Instant tried(Subject s);

  /** Why it is not asked of a resource; null where it is. */
  abstract @Nullable String notAsked(Subject s);

  @Override
  Judgement judge(Subject s) {
    Long allowed = s.demand().value(within);
    if (allowed == null) {
      return Judgement.notDemanded();
    }
    String not = notAsked(s);
    if (not != null) {
      return Judgement.notAsked(not);
    }
    FactRef fact = new FactRef("resources", s.resource().key());
    if (which(s) == null) {
      return Judgement.unknown(
          "nobody says which " + what() + " " + s.resource().name() + " has",
          what() + " = not known");
    }
    if (tried(s) == null) {
      return Judgement.of(
          OutcomeState.NOT_MET,
          null,
          Measure.of(Duration.ofMillis(allowed)),
          "the " + what() + " of " + s.resource().name() + " (" + which(s)
              + ") is not known to have been tried",
          "as at − " + what() + " tried, demanded ≤ "
              + Wording.duration(Duration.ofMillis(allowed))
              + "; it never was",
          List.of(fact));
    }
    return Judgement.within(
        s,
        tried(s),
        Duration.ofMillis(allowed),
        "the " + what() + " of " + s.resource().name() + " (" + which(s) + ") was tried",
        what() + " tried",
        fact);
  }
}
