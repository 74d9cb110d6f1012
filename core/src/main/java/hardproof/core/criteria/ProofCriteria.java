package hardproof.core.criteria;

import static hardproof.core.criteria.Criteria.metIf;
import static hardproof.core.criteria.Criteria.outcome;

import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Store;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** What drills have shown. */
final class ProofCriteria {
  private ProofCriteria() {}

  static Outcome age(Subject s) {
    Proof proof = Proof.of(s);
    Duration allowed = s.demand().proofPeriod();
    if (proof.reached() == null) {
      return outcome(
          CriterionCode.PROOF_AGE,
          s,
          OutcomeState.NOT_MET,
          null,
          Measure.of(allowed),
          proof.sentence(s),
          "as at − end of the newest drill that reached " + proof.demanded().code() + " ≤ "
              + Wording.duration(allowed) + "; there is none",
          proof.facts());
    }
    Duration age = Duration.between(proof.reached().ended(), s.asAt());
    return outcome(
        CriterionCode.PROOF_AGE,
        s,
        metIf(age.compareTo(allowed) <= 0),
        Measure.of(age),
        Measure.of(allowed),
        proof.sentence(s),
        "as at − end of the newest drill that reached " + proof.demanded().code() + " = "
            + Wording.duration(age) + " ≤ proof period " + Wording.duration(allowed),
        proof.facts());
  }

  static Outcome lastDrill(Subject s) {
    Optional<DrillFact> last = Proof.lastDecided(s);
    if (last.isEmpty()) {
      return outcome(
          CriterionCode.PROOF_LAST_DRILL,
          s,
          OutcomeState.NOT_ENOUGH_DATA,
          null,
          null,
          s.resource().name() + " was never drilled",
          "drills = 0",
          List.of());
    }
    DrillFact drill = last.get();
    return outcome(
        CriterionCode.PROOF_LAST_DRILL,
        s,
        metIf(drill.passed()),
        null,
        null,
        "the drill of " + Wording.time(drill.ended(), s.asAt())
            + (drill.passed() ? " passed: " : " failed: ") + drill.sentence(),
        "restore = " + drill.restore().code() + ", checks = " + drill.checks().code()
            + "; done and passed are demanded",
        List.of(new FactRef("drills", drill.run())));
  }

  static Outcome cleanUp(Subject s) {
    List<DrillFact> left = s.estate().drillsOf(s.protector().key()).stream()
        .filter(d -> d.cleanup() == CleanupState.FAILED)
        .toList();
    return outcome(
        CriterionCode.PROOF_CLEAN_UP,
        s,
        metIf(left.isEmpty()),
        Measure.count(left.size()),
        Measure.count(0),
        left.isEmpty()
            ? "no drill left restored data behind"
            : Wording.count(left.size(), "drill", "drills") + " left restored data behind",
        "runs whose clean-up failed = " + left.size() + " ≤ 0",
        left.stream().map(d -> new FactRef("drills", d.run())).toList());
  }

  /** A failed read-back is not looked for here: it makes its copy unusable, which others judge. */
  static Outcome readBack(Subject s) {
    CriterionCode code = CriterionCode.PROOF_READ_BACK;
    Duration allowed = s.demand().duration(Parameter.READ_BACK_AGE);
    if (allowed == null) {
      return Criteria.notDemanded(code, s);
    }
    Instant last = null;
    FactRef fact = null;
    int newest = s.set().newestRead(true);
    if (newest >= 0) {
      last = Instant.ofEpochMilli(s.set().copyLastRead(newest));
      fact = new FactRef("points", s.set().copyAtPlace(newest).point());
    }
    for (DrillFact drill : s.estate().drillsOf(s.protector().key())) {
      boolean read = drill.passed() && drill.rung().atLeast(Rung.INTACT);
      if (read && (last == null || drill.ended().isAfter(last))) {
        last = drill.ended();
        fact = new FactRef("drills", drill.run());
      }
    }
    if (last == null) {
      return outcome(
          code,
          s,
          OutcomeState.NOT_MET,
          null,
          Measure.of(allowed),
          "no copy of " + s.resource().name() + " was ever read back whole",
          "as at − newest read-back or drill that passed ≤ " + Wording.duration(allowed)
              + "; there is none",
          List.of());
    }
    return CoverCriteria.within(
        code,
        s,
        last,
        allowed,
        "a copy of " + s.resource().name() + " was last read back whole",
        "newest read-back",
        fact);
  }

  static Outcome recoveryTime(Subject s) {
    CriterionCode code = CriterionCode.PROOF_RECOVERY_TIME;
    Optional<DrillFact> last = s.estate().drillsOf(s.protector().key()).stream()
        .filter(d -> d.passed() && d.rung().atLeast(Rung.RESTORED))
        .reduce((a, b) -> b);
    if (last.isEmpty()) {
      return Criteria.unknown(
          code,
          s,
          "how long a restore of " + s.resource().name() + " takes was never measured",
          "restores that passed = 0");
    }
    Duration took = last.get().took();
    Duration rto = s.demand().rto();
    boolean met = took.compareTo(rto) <= 0;
    return outcome(
        code,
        s,
        metIf(met),
        Measure.of(took),
        Measure.of(rto),
        "the restore of " + Wording.time(last.get().ended(), s.asAt()) + " took "
            + Wording.duration(took) + ", " + Wording.duration(took.minus(rto).abs())
            + (met ? " inside the " : " over the ") + Wording.duration(rto)
            + " objective; this resource alone, not its whole workload",
        "end − start of the newest restore that passed = " + Wording.duration(took) + " ≤ RTO "
            + Wording.duration(rto),
        List.of(new FactRef("drills", last.get().run())));
  }

  static Outcome offSite(Subject s) {
    CriterionCode code = CriterionCode.PROOF_OFF_SITE;
    Duration allowed = s.demand().duration(Parameter.OFF_SITE_DRILL_AGE);
    if (allowed == null) {
      return Criteria.notDemanded(code, s);
    }
    String site = s.resource().site();
    if (site == null) {
      return Criteria.unknown(code, s, "the resource's own site is not known", "site is not known");
    }
    Optional<DrillFact> last = s.estate().drillsOf(s.protector().key()).stream()
        .filter(DrillFact::passed)
        .filter(d -> {
          Store store = s.estate().store(d.store());
          return store != null && store.site() != null && !store.site().equalsIgnoreCase(site);
        })
        .reduce((a, b) -> b);
    if (last.isEmpty()) {
      return outcome(
          code,
          s,
          OutcomeState.NOT_MET,
          null,
          Measure.of(allowed),
          s.resource().name() + " was never drilled from a copy at another site than " + site,
          "as at − newest drill from an off-site copy that passed ≤ " + Wording.duration(allowed)
              + "; there is none",
          List.of());
    }
    return CoverCriteria.within(
        code,
        s,
        last.get().ended(),
        allowed,
        "the last drill from an off-site copy ("
            + s.estate().storeName(last.get().store()) + ") passed",
        "end of the newest drill from another site than " + site,
        new FactRef("drills", last.get().run()));
  }
}
