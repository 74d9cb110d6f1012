package hardproof.core.criteria;

import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Store;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;
import java.util.Optional;

/** Was it restored from another site? */
final class ProofOffSite extends ShippedCriterion {
  ProofOffSite() {
    super(
        Group.PROOF,
        "Drilled from off-site",
        "A drill from a copy at another site passed within the time that the tier allows.",
        List.of("NIST CP-9(2)", "NIST CP-6"),
        Parameter.OFF_SITE_DRILL_AGE);
  }

  @Override
  Judgement judge(Subject s) {
    Duration allowed = s.demand().duration(Parameter.OFF_SITE_DRILL_AGE);
    if (allowed == null) {
      return Judgement.notDemanded();
    }
    String site = s.resource().site();
    if (site == null) {
      return Judgement.unknown("the resource's own site is not known", "site is not known");
    }
    return judged(s, allowed, site);
  }

  private static Judgement judged(Subject s, Duration allowed, String site) {
    Optional<DrillFact> last = s.estate().drillsOf(s.protector().key()).stream()
        .filter(DrillFact::passed)
        .filter(d -> {
          Store store = s.estate().store(d.store());
          return store != null && store.site() != null && !store.site().equalsIgnoreCase(site);
        })
        .reduce((a, b) -> b);
    if (last.isEmpty()) {
      return Judgement.of(
          OutcomeState.NOT_MET,
          null,
          Measure.of(allowed),
          s.resource().name() + " was never drilled from a copy at another site than " + site,
          "as at − newest drill from an off-site copy that passed, demanded ≤ "
              + Wording.duration(allowed) + "; there is none",
          List.of());
    }
    return Judgement.within(
        s,
        last.get().ended(),
        allowed,
        "the last drill from an off-site copy ("
            + s.estate().storeName(last.get().store()) + ") passed",
        "end of the newest drill from another site than " + site,
        new FactRef("drills", last.get().run()));
  }
}
