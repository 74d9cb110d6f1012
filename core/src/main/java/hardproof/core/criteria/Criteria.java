package hardproof.core.criteria;

import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import java.util.ArrayList;
import java.util.List;

/** Evaluates every criterion for a resource. Pure. */
public final class Criteria {
  private Criteria() {}

  /** One outcome for each criterion, in the order of {@link CriterionCode}. */
  public static List<Outcome> evaluate(Subject subject) {
    List<Outcome> outcomes = new ArrayList<>();
    outcomes.add(CoverCriteria.owner(subject));
    outcomes.add(CoverCriteria.covered(subject));
    outcomes.add(FreshnessCriteria.exposureNow(subject));
    outcomes.add(FreshnessCriteria.worstExposure(subject));
    outcomes.add(FreshnessCriteria.attainment(subject));
    outcomes.addAll(CopyCriteria.count(subject));
    outcomes.add(CopyCriteria.deadline(subject));
    outcomes.add(SoundnessCriteria.complete(subject));
    outcomes.add(SoundnessCriteria.chain(subject));
    outcomes.add(ProofCriteria.age(subject));
    outcomes.add(ProofCriteria.lastDrill(subject));
    outcomes.add(ProofCriteria.cleanUp(subject));
    return withExceptions(subject, withOverdueFeed(subject, outcomes));
  }

  /** The feed a resource depends on is silent: nothing about it can be said, good or bad. */
  private static List<Outcome> withOverdueFeed(Subject subject, List<Outcome> outcomes) {
    Feed feed = subject.estate().feed(subject.resource().feed());
    if (feed == null || !feed.overdueAt(subject.asAt())) {
      return outcomes;
    }
    return outcomes.stream()
        .map(o -> o.criterion().group().equals("Proof") || o.state() == OutcomeState.NOT_APPLICABLE
            ? o
            : o.overdue(feed.overdueSentence(subject.asAt())))
        .toList();
  }

  private static List<Outcome> withExceptions(Subject subject, List<Outcome> outcomes) {
    List<AcceptedException> exceptions = subject.estate().exceptionsOf(subject.resource());
    return outcomes.stream()
        .map(o -> o.state() != OutcomeState.NOT_MET
            ? o
            : exceptions.stream()
                .filter(e -> o.criterion().code().equals(e.criterion()))
                .findFirst()
                .map(e -> o.excepted(e.key()))
                .orElse(o))
        .toList();
  }

  static Outcome outcome(
      CriterionCode code,
      Subject subject,
      OutcomeState state,
      Measure measured,
      Measure demanded,
      String sentence,
      String why,
      List<FactRef> facts) {
    return new Outcome(
        code, subject.resource().key(), state, measured, demanded, sentence, why, facts, null);
  }

  static OutcomeState metIf(boolean met) {
    return met ? OutcomeState.MET : OutcomeState.NOT_MET;
  }
}
