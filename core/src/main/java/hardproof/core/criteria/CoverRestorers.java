package hardproof.core.criteria;

import hardproof.core.wording.Wording;
import java.util.List;

/** Are there enough people who can bring it back? */
final class CoverRestorers extends ShippedCriterion {
  CoverRestorers() {
    super(
        Group.COVER,
        "People who can restore",
        "At least so many people as the tier asks for can bring it back.",
        List.of("NIST CP-4"),
        Parameter.RESTORERS);
  }

  @Override
  Judgement judge(Subject s) {
    Long demanded = s.demand().value(Parameter.RESTORERS);
    if (demanded == null) {
      return Judgement.notDemanded();
    }
    List<String> people =
        s.resource().restoring().restorers().stream().distinct().toList();
    if (people.isEmpty()) {
      return Judgement.unknown(
          "nobody says who can bring " + s.resource().name() + " back", "people = not known");
    }
    boolean met = people.size() >= demanded;
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.count(people.size()),
        Measure.count(demanded),
        Wording.list(people) + " can bring " + s.resource().name() + " back; "
            + Wording.count(demanded, "person is", "people are") + " demanded",
        "people who can restore it = " + people.size() + atLeast(met) + demanded,
        List.of(new FactRef("resources", s.resource().key())));
  }
}
