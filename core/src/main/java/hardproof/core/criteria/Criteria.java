package hardproof.core.criteria;

import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import java.util.ArrayList;
import java.util.List;

/** Evaluates every criterion for a resource. Pure. */
public final class Criteria {
  private Criteria() {}

  /** One outcome for each criterion, in the order of {@link CriterionCode}; then one's own. */
  public static List<Outcome> evaluate(Subject subject) {
    List<Outcome> cover = List.of(
        CoverCriteria.owner(subject),
        CoverCriteria.covered(subject),
        CoverCriteria.seen(subject),
        CoverCriteria.agent(subject),
        CoverCriteria.credentials(subject),
        CoverCriteria.important(subject));
    List<Outcome> ofPoints = new ArrayList<>(40);
    ofPoints.add(FreshnessCriteria.exposureNow(subject));
    ofPoints.add(FreshnessCriteria.worstExposure(subject));
    ofPoints.add(FreshnessCriteria.attainment(subject));
    ofPoints.add(ScheduleCriteria.onPaper(subject));
    ofPoints.add(ScheduleCriteria.window(subject));
    ofPoints.add(ScheduleCriteria.lastOutcomes(subject));
    ofPoints.add(HistoryCriteria.reach(subject));
    ofPoints.add(HistoryCriteria.slots(subject));
    ofPoints.add(HistoryCriteria.onPaper(subject));
    ofPoints.add(HistoryCriteria.lifetime(subject));
    ofPoints.add(HistoryCriteria.goneEarly(subject));
    ofPoints.addAll(CopyCriteria.count(subject));
    ofPoints.add(CopyCriteria.deadline(subject));
    ofPoints.add(CopyCriteria.independent(subject));
    ofPoints.add(CopyCriteria.residency(subject));
    ofPoints.add(CopyCriteria.redundancy(subject));
    ofPoints.add(SafeguardCriteria.encrypted(subject));
    ofPoints.add(SafeguardCriteria.locked(subject));
    ofPoints.add(SafeguardCriteria.lockCoversRetention(subject));
    ofPoints.add(SafeguardCriteria.deletion(subject));
    ofPoints.add(SoundnessCriteria.complete(subject));
    ofPoints.add(SoundnessCriteria.skipped(subject));
    ofPoints.add(SoundnessCriteria.consistency(subject));
    ofPoints.add(SoundnessCriteria.preStep(subject));
    ofPoints.add(SoundnessCriteria.sourceRole(subject));
    ofPoints.add(SoundnessCriteria.size(subject));
    ofPoints.add(SoundnessCriteria.chain(subject));
    ofPoints.add(SoundnessCriteria.chainLength(subject));
    ofPoints.add(SoundnessCriteria.fullAge(subject));
    List<Outcome> all = new ArrayList<>(overdue(cover, resourceFeed(subject), subject));
    all.add(CoverCriteria.feed(subject));
    all.addAll(overdue(ofPoints, firstOverdue(subject), subject));
    all.add(ProofCriteria.age(subject));
    all.add(ProofCriteria.lastDrill(subject));
    all.add(ProofCriteria.readBack(subject));
    all.add(ProofCriteria.recoveryTime(subject));
    all.add(ProofCriteria.offSite(subject));
    all.add(ProofCriteria.cleanUp(subject));
    subject.standard().own().forEach(o -> all.add(o.judge(subject)));
    return withExceptions(subject, all);
  }

  private static Feed resourceFeed(Subject s) {
    Feed feed = s.estate().feed(s.resource().feed());
    return feed != null && feed.overdueAt(s.asAt()) ? feed : null;
  }

  /** The first of the feeds that tell of the resource or its points that is silent; null when none. */
  static Feed firstOverdue(Subject s) {
    return s.feeds().stream().filter(f -> f.overdueAt(s.asAt())).findFirst().orElse(null);
  }

  /** A feed these outcomes depend on is silent: nothing can be said, good or bad. */
  private static List<Outcome> overdue(List<Outcome> outcomes, Feed feed, Subject s) {
    if (feed == null) {
      return outcomes;
    }
    String sentence = feed.overdueSentence(s.asAt());
    return outcomes.stream()
        .map(o -> o.state() == OutcomeState.NOT_APPLICABLE ? o : o.overdue(sentence))
        .toList();
  }

  private static List<Outcome> withExceptions(Subject subject, List<Outcome> outcomes) {
    List<AcceptedException> exceptions = subject.exceptions();
    if (exceptions.isEmpty()) {
      return outcomes;
    }
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

  /** There is too little to tell. */
  static Outcome unknown(CriterionCode code, Subject s, String sentence, String why) {
    return outcome(code, s, OutcomeState.NOT_ENOUGH_DATA, null, null, sentence, why, List.of());
  }

  /** Nothing is asked here, and why. */
  static Outcome notAsked(CriterionCode code, Subject s, String sentence) {
    return outcome(
        code, s, OutcomeState.NOT_APPLICABLE, null, null, sentence, "not asked", List.of());
  }

  static Outcome notDemanded(CriterionCode code, Subject s) {
    return notAsked(code, s, "not demanded of this tier");
  }

  static Outcome noPoint(CriterionCode code, Subject s) {
    return unknown(code, s, s.resource().name() + " has no recovery point", "points = 0");
  }

  static OutcomeState metIf(boolean met) {
    return met ? OutcomeState.MET : OutcomeState.NOT_MET;
  }
}
