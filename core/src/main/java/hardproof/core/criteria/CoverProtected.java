package hardproof.core.criteria;

import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;

/** Does anything protect it, and promise to go on? */
final class CoverProtected extends ShippedCriterion {
  CoverProtected() {
    super(
        Group.COVER,
        "Covered",
        "A policy has it in scope and at least one recovery point was made of it.",
        List.of("NIST CP-9", "CIS 11.2", "ISO A.8.13"));
  }

  @Override
  boolean urgent() {
    return true;
  }

  @Override
  Judgement judge(Subject s) {
    boolean policy = !s.policies().isEmpty();
    boolean point = !s.points().isEmpty();
    String name = s.resource().name();
    String through =
        s.throughParent() ? ", through the image of " + s.protector().name() : "";
    String sentence;
    if (policy && point) {
      sentence = name + " is in the scope of " + names(s) + " and has "
          + Wording.count(s.points().size(), "recovery point", "recovery points") + through;
    } else if (policy) {
      sentence = name + " is in the scope of " + names(s)
          + " but no recovery point has been made of it" + leftOut(s);
    } else if (point) {
      sentence = name + " has recovery points" + through
          + " but no policy has it in scope: nothing promises the next one";
    } else {
      sentence = name + seenSince(s) + " matches no policy and has no recovery point" + leftOut(s);
    }
    return Judgement.of(
        OutcomeState.metIf(policy && point),
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

  /** Why the image of what it lies in does not protect it. */
  private static String leftOut(Subject s) {
    Resource parent = s.estate().resource(s.resource().parent());
    return parent == null
        ? ""
        : s.estate()
            .leftOutOf(parent, s.resource())
            .map(e -> "; the image of " + parent.name() + " leaves it out by the exclude filter "
                + e.pattern() + " of " + e.policy().name())
            .orElse("");
  }
}
