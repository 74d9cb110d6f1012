package hardproof.core.criteria;

import hardproof.core.facts.Usability.Judged;
import hardproof.core.wording.Wording;
import java.util.List;

/** Does the newest point hold everything? */
final class SoundSkipped extends NewestPointCriterion {
  SoundSkipped() {
    super(
        "Nothing skipped",
        "The newest point holds every item it was to hold.",
        List.of("NIST CP-9"),
        Parameter.SKIPPED_ITEMS);
  }

  @Override
  boolean asked(TierDemand demand) {
    return demand.value(Parameter.SKIPPED_ITEMS) != null;
  }

  @Override
  Judgement judge(Subject s, Judged j) {
    Long allowed = s.demand().value(Parameter.SKIPPED_ITEMS);
    Long skipped = j.point().skippedItems();
    if (skipped == null) {
      return Judgement.notAsked("nobody says how many items were skipped");
    }
    return Judgement.of(
        OutcomeState.metIf(skipped <= allowed),
        Measure.count(skipped),
        Measure.count(allowed),
        sentence(s, j, skipped),
        "skipped items = " + skipped + atMost(skipped <= allowed) + allowed,
        fact(j));
  }

  private static String sentence(Subject s, Judged j, Long skipped) {
    return newestOf(j, s)
        + (skipped == 0
            ? " holds every item"
            : " leaves out " + Wording.count(skipped, "item", "items") + ", and says "
                + j.point().outcome().code());
  }
}
