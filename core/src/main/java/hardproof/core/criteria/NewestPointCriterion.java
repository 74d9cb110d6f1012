package hardproof.core.criteria;

import hardproof.core.facts.Usability.Judged;
import hardproof.core.wording.Wording;
import java.util.List;

/** A criterion on the newest point, usable or not: does it hold what it says? */
abstract class NewestPointCriterion extends ShippedCriterion {
  NewestPointCriterion(
      String title, String demand, List<String> references, Parameter... parameters) {
    super(Group.SOUNDNESS, title, demand, references, parameters);
  }

  @Override
  final Judgement judge(Subject s) {
    if (!asked(s.demand())) {
      return Judgement.notDemanded();
    }
    return s.newest().map(j -> judge(s, j)).orElseGet(() -> Judgement.noPoint(s));
  }

  /** Whether the tier demands it. */
  boolean asked(TierDemand demand) {
    return true;
  }

  abstract Judgement judge(Subject s, Judged newest);

  static List<FactRef> fact(Judged j) {
    return List.of(new FactRef("points", j.point().key()));
  }

  static String newestOf(Judged j, Subject s) {
    return "the newest point, of " + Wording.time(j.point().dataTime(), s.asAt()) + ",";
  }
}
