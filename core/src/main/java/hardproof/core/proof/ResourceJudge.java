package hardproof.core.proof;

import hardproof.core.copies.Copy;
import hardproof.core.criteria.Criteria;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.FactRef;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.criteria.Proof;
import hardproof.core.criteria.Subject;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Brings the outcomes of one resource to causes, and says what would change them. */
final class ResourceJudge {
  private ResourceJudge() {}

  static ResourceResult judge(Subject s) {
    List<Outcome> outcomes = Criteria.evaluate(s);
    Proof proof = Proof.of(s);
    Optional<AcceptedException> exclusion =
        s.exceptions().stream().filter(e -> e.criterion() == null).findFirst();
    List<Cause> causes =
        exclusion.isPresent() ? List.of(excluded(s, exclusion.get())) : causes(s, outcomes, proof);
    boolean silent =
        exclusion.isEmpty() && exposureIsSilent(s, outcomes) && s.speaker().expectedEvery() != null;
    Verdict worst = causes.get(0).verdict();
    return new ResourceResult(
        s.resource(),
        s.protector(),
        s.demand(),
        s.policies(),
        s.copyCount(),
        outcomes,
        proof,
        proof.sentence(s),
        Proof.lastDecided(s).orElse(null),
        new ResourceResult.Told(s.horizon(), silent ? s.horizon() : null),
        causes,
        actions(s, proof, worst));
  }

  private static Cause excluded(Subject s, AcceptedException e) {
    String end = e.until() == null ? "" : " until " + Wording.time(e.until(), s.asAt());
    return new Cause(
        Verdict.EXCLUDED,
        s.resource().key(),
        "left out" + end + ": " + e.reason() + " (proposed by " + e.proposedBy() + ", approved by "
            + e.approvedBy() + ")",
        List.of(new FactRef("exceptions", e.key())));
  }

  private static List<Cause> causes(Subject s, List<Outcome> outcomes, Proof proof) {
    List<Cause> causes = new ArrayList<>();
    String key = s.resource().key();
    addPresent(s, outcomes, causes, key);
    addDisproven(s, causes);
    if (!proof.demandReachedInPeriod()) {
      Verdict short0 = proof.lapsed() ? Verdict.LAPSED : Verdict.UNPROVEN;
      causes.add(new Cause(short0, key, proof.sentence(s), proof.facts()));
    }
    if (causes.isEmpty()) {
      causes.add(new Cause(Verdict.PROVEN, key, proof.sentence(s), proof.facts()));
    }
    causes.sort(Comparator.comparing(Cause::verdict));
    return List.copyOf(causes);
  }

  private static void addPresent(
      Subject s, List<Outcome> outcomes, List<Cause> causes, String key) {
    Feed feed = Criteria.firstOverdue(s);
    if (feed != null) {
      causes.add(new Cause(
          Verdict.UNKNOWN,
          key,
          feed.overdueSentence(s.asAt()),
          List.of(new FactRef("feeds", feed.key()))));
    } else if (exposureIsSilent(s, outcomes) && s.speaker().expectedEvery() == null) {
      // Nobody has promised the next delivery, so that this silence could go on for ever.
      causes.add(new Cause(
          Verdict.UNKNOWN,
          key,
          "feed " + s.speaker().key() + " last spoke " + Wording.time(s.horizon(), s.asAt()) + ", "
              + Wording.duration(Duration.between(s.horizon(), s.asAt()))
              + " ago, and nobody has said how often it comes: the objective of "
              + Wording.duration(s.demand().rpo()) + " can't be judged",
          List.of(new FactRef("feeds", s.speaker().key()))));
    } else if (s.policies().isEmpty() && s.points().isEmpty()) {
      Outcome covered = find(outcomes, CriterionCode.COVER_PROTECTED);
      causes.add(new Cause(Verdict.UNCOVERED, key, covered.sentence(), covered.facts()));
    } else {
      Outcome exposure = find(outcomes, CriterionCode.FRESH_EXPOSURE_NOW);
      // An accepted exception to the objective moves the limit; it can't accept having nothing.
      if (exposure.state() == OutcomeState.NOT_MET || s.newestUsable().isEmpty()) {
        causes.add(new Cause(
            Verdict.EXPOSED,
            key,
            s.resource().name() + ": " + exposure.sentence(),
            exposure.facts()));
      }
    }
  }

  private static void addDisproven(Subject s, List<Cause> causes) {
    Cause disproven = disproven(s);
    if (disproven != null) {
      causes.add(disproven);
    }
  }

  /** Neither over its objective when its feed last spoke, nor shown to be within it now. */
  private static boolean exposureIsSilent(Subject s, List<Outcome> outcomes) {
    return s.horizon().isBefore(s.asAt())
        && Criteria.firstOverdue(s) == null
        && find(outcomes, CriterionCode.FRESH_EXPOSURE_NOW).state() == OutcomeState.NOT_ENOUGH_DATA;
  }

  private static Outcome find(List<Outcome> outcomes, CriterionCode code) {
    return outcomes.stream().filter(o -> o.criterion() == code).findFirst().orElseThrow();
  }

  /** A failed drill, or a failed read-back of a copy of the newest points with no pass since. */
  private static Cause disproven(Subject s) {
    Optional<DrillFact> last = Proof.lastDecided(s);
    if (last.isPresent() && last.get().failed()) {
      return drillFailed(s, last.get());
    }
    int newest = s.set().copies().newestRead(false);
    if (newest < 0 || s.set().copies().lastReadPassed(newest) != 0) {
      return null;
    }
    Copy copy = s.set().copies().at(newest);
    if (last.isPresent() && !last.get().ended().isBefore(copy.lastRead())) {
      return null;
    }
    return readBackFailed(s, copy);
  }

  private static Cause drillFailed(Subject s, DrillFact drill) {
    return new Cause(
        Verdict.DISPROVEN,
        s.resource().key(),
        "the drill of " + s.resource().name() + " at " + Wording.time(drill.ended(), s.asAt())
            + " failed: " + drill.sentence(),
        List.of(new FactRef("drills", drill.run())));
  }

  private static Cause readBackFailed(Subject s, Copy copy) {
    return new Cause(
        Verdict.DISPROVEN,
        s.resource().key(),
        "the read-back of " + copy.point() + " from " + s.estate().storeName(copy.store()) + " at "
            + Wording.time(copy.lastRead(), s.asAt()) + " failed",
        List.of(new FactRef("points", copy.point())));
  }

  private static List<Action> actions(Subject s, Proof proof, Verdict worst) {
    List<Action> actions = new ArrayList<>();
    if (worst == Verdict.UNKNOWN) {
      actions.add(plain(Action.Type.REPORT, s, report(s)));
    }
    if (s.policies().isEmpty()) {
      actions.add(
          plain(Action.Type.COVER, s, "put " + s.resource().name() + " in the scope of a policy"));
    }
    if (worst == Verdict.UNCOVERED || worst == Verdict.EXPOSED) {
      actions.add(plain(
          Action.Type.MAKE_POINT,
          s,
          "make a complete recovery point of " + s.resource().name() + why(s)));
    }
    addDrill(s, proof, actions);
    return actions;
  }

  /** One that no point and no method of a drill belong to. */
  private static Action plain(Action.Type type, Subject s, String sentence) {
    return new Action(type, s.resource().key(), null, null, sentence);
  }

  private static String report(Subject s) {
    return s.feeds().stream()
        .filter(f -> f.overdueAt(s.asAt()))
        .findFirst()
        .or(() -> Optional.ofNullable(s.speaker()))
        .map(f -> "bring in a current report of feed " + f.key())
        .orElse("bring in a current report");
  }

  private static void addDrill(Subject s, Proof proof, List<Action> actions) {
    boolean failedLast = Proof.lastDecided(s).map(DrillFact::failed).orElse(false);
    if (!proof.demandReachedInPeriod() || failedLast) {
      s.newestUsable().ifPresent(j -> actions.add(drill(s, proof, j, failedLast)));
    }
  }

  private static Action drill(Subject s, Proof proof, Judged candidate, boolean failedLast) {
    Method method = Method.showing(s.protector().kind(), proof.demanded());
    String which = failedLast && olderThanBlamed(s, candidate)
        ? " from the next older point that may be good, of "
        : " from its newest usable point, of ";
    String short0 = shortOf(proof, method);
    return new Action(
        Action.Type.DRILL,
        s.protector().key(),
        candidate.point().key(),
        method,
        "drill " + s.protector().name() + " by " + method.words() + which
            + Wording.time(candidate.point().dataTime(), s.asAt()) + short0);
  }

  private static String shortOf(Proof proof, Method method) {
    return method.rung().atLeast(proof.demanded())
        ? ""
        : " (it reaches " + method.rung().code() + "; " + proof.demanded().code() + " is demanded)";
  }

  /** Whether a point is older than the one that the newest drill showed to be bad. */
  private static boolean olderThanBlamed(Subject s, Judged candidate) {
    return Proof.lastDecided(s)
        .map(DrillFact::blamedPoint)
        .map(p -> s.estate().point(s.protector().key(), p))
        .filter(p -> candidate.point().dataTime().isBefore(p.dataTime()))
        .isPresent();
  }

  private static String why(Subject s) {
    return s.newest()
        .map(Judged::whyNot)
        .map(why -> " (of the newest, " + why + ")")
        .orElse("");
  }
}
