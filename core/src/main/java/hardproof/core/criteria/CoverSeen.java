package hardproof.core.criteria;

import hardproof.core.estate.Resource;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;

/** Is it still there, as far as its feed says? */
final class CoverSeen extends ShippedCriterion {
  CoverSeen() {
    super(
        Group.COVER,
        "Seen lately",
        "The full listings of its feed still name it.",
        List.of("CIS 11.1", "NIST CP-9"),
        Parameter.SEEN_WITHIN);
  }

  @Override
  Judgement judge(Subject s) {
    Duration allowed = s.demand().duration(Parameter.SEEN_WITHIN);
    if (allowed == null) {
      return Judgement.notDemanded();
    }
    Resource r = s.resource();
    if (r.missingSince() != null) {
      return notListed(s, allowed, r);
    }
    if (r.lastSeen() == null) {
      return Judgement.unknown("when it was last seen is not known", "last seen is not known");
    }
    return seen(s, allowed, r);
  }

  private static Judgement notListed(Subject s, Duration allowed, Resource r) {
    return Judgement.of(
        OutcomeState.NOT_MET,
        r.lastSeen() == null ? null : Measure.of(Duration.between(r.lastSeen(), s.asAt())),
        Measure.of(allowed),
        "the full listings of feed " + r.feed() + " do not name " + r.name() + " any more since "
            + Wording.time(r.missingSince(), s.asAt()),
        "left out by a full listing at " + Wording.time(r.missingSince(), s.asAt()),
        List.of(new FactRef("resources", r.key())));
  }

  private static Judgement seen(Subject s, Duration allowed, Resource r) {
    return Judgement.within(
        s,
        r.lastSeen(),
        allowed,
        r.name() + " was last seen",
        "last seen",
        new FactRef("resources", r.key()));
  }
}
