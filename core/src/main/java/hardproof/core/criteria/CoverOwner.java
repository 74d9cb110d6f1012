package hardproof.core.criteria;

import hardproof.core.estate.Workload;
import hardproof.core.wording.Wording;
import java.util.ArrayList;
import java.util.List;

/** Whose is it, and how much does it matter? */
final class CoverOwner extends ShippedCriterion {
  CoverOwner() {
    super(
        Group.COVER,
        "Owner and tier known",
        "Its workload has an owner and a tier.",
        List.of("CIS 11.1"));
  }

  @Override
  Judgement judge(Subject s) {
    Workload workload = s.estate().workload(s.resource().workload());
    List<String> missing = missing(workload);
    String sentence = sentence(s, workload, missing);
    List<FactRef> facts = facts(s, workload);
    return Judgement.of(
        OutcomeState.metIf(missing.isEmpty()),
        null,
        null,
        sentence,
        "owner = " + known(workload == null ? null : workload.owner()) + ", tier = "
            + known(workload == null ? null : workload.tier()) + "; both are demanded",
        facts);
  }

  private static String known(Object value) {
    return value == null ? "not known" : value.toString();
  }

  private static List<String> missing(Workload workload) {
    List<String> missing = new ArrayList<>();
    if (workload == null) {
      missing.add("no workload");
    } else {
      if (workload.owner() == null) {
        missing.add("no owner");
      }
      if (workload.tier() == null) {
        missing.add("no tier, so it is held to tier 1");
      }
    }
    return missing;
  }

  private static String sentence(Subject s, Workload workload, List<String> missing) {
    return missing.isEmpty()
        ? workload.name() + " is owned by " + workload.owner() + " and is of tier "
            + workload.tier()
        : s.resource().name() + " has " + Wording.list(missing);
  }

  private static List<FactRef> facts(Subject s, Workload workload) {
    List<FactRef> facts =
        new ArrayList<>(List.of(new FactRef("resources", s.resource().key())));
    if (workload != null) {
      facts.add(new FactRef("workloads", workload.key()));
    }
    return facts;
  }
}
