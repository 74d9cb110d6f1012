package hardproof.core.criteria;

import static hardproof.core.criteria.Criteria.metIf;
import static hardproof.core.criteria.Criteria.outcome;

import hardproof.core.estate.Policy;
import hardproof.core.estate.Workload;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** Is it somebody's, and does anything protect it? */
final class CoverCriteria {
  private CoverCriteria() {}

  static Outcome owner(Subject s) {
    Workload workload = s.estate().workload(s.resource().workload());
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
    String sentence = missing.isEmpty()
        ? workload.name() + " is owned by " + workload.owner() + " and is of tier "
            + workload.tier()
        : s.resource().name() + " has " + Wording.list(missing);
    List<FactRef> facts =
        new ArrayList<>(List.of(new FactRef("resources", s.resource().key())));
    if (workload != null) {
      facts.add(new FactRef("workloads", workload.key()));
    }
    return outcome(
        CriterionCode.COVER_OWNER,
        s,
        metIf(missing.isEmpty()),
        null,
        null,
        sentence,
        "owner and tier are both known",
        facts);
  }

  static Outcome covered(Subject s) {
    boolean policy = !s.policies().isEmpty();
    boolean point = !s.points().isEmpty();
    String name = s.resource().name();
    String through = s.protector().equals(s.resource())
        ? ""
        : ", through the image of " + s.protector().name();
    String sentence;
    if (policy && point) {
      sentence = name + " is in the scope of " + names(s) + " and has "
          + Wording.count(s.points().size(), "recovery point", "recovery points") + through;
    } else if (policy) {
      sentence =
          name + " is in the scope of " + names(s) + " but no recovery point has been made of it";
    } else if (point) {
      sentence = name + " has recovery points" + through
          + " but no policy has it in scope: nothing promises the next one";
    } else {
      sentence = name + seenSince(s) + " matches no policy and has no recovery point";
    }
    return outcome(
        CriterionCode.COVER_PROTECTED,
        s,
        metIf(policy && point),
        Measure.count(s.points().size()),
        Measure.count(1),
        sentence,
        "policies in scope = " + s.policies().size() + ", at least 1 demanded; points = "
            + s.points().size() + ", at least 1 demanded",
        List.of(new FactRef("resources", s.resource().key())));
  }

  private static String seenSince(Subject s) {
    return s.resource().firstSeen() == null
        ? ""
        : " was first seen "
            + Wording.duration(Duration.between(s.resource().firstSeen(), s.asAt())) + " ago,";
  }

  private static String names(Subject s) {
    return Wording.list(s.policies().stream().map(Policy::name).toList());
  }
}
