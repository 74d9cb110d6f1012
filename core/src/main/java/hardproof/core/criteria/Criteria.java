package hardproof.core.criteria;

import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/** Evaluates every criterion for a resource. Pure. */
public final class Criteria {
  private Criteria() {}

  /** One outcome for each criterion, in the order of {@link CriterionCode}; then one's own. */
  public static List<Outcome> evaluate(Subject subject) {
    List<Outcome> all =
        new ArrayList<>(overdue(Group.COVER.judge(subject), resourceFeed(subject), subject));
    all.add(CoverCriteria.feed(subject));
    Feed overdue = firstOverdue(subject);
    all.addAll(overdue(Group.POINTS.judge(subject), overdue, subject));
    all.addAll(overdue(Group.COPIES.judge(subject), overdue, subject));
    all.addAll(overdue(Group.NEWEST.judge(subject), overdue, subject));
    all.add(ProofCriteria.age(subject));
    all.add(ProofCriteria.lastDrill(subject));
    all.add(ProofCriteria.readBack(subject));
    all.add(ProofCriteria.recoveryTime(subject));
    all.add(ProofCriteria.offSite(subject));
    all.add(ProofCriteria.cleanUp(subject));
    all.addAll(Group.OWN.judge(subject));
    return withExceptions(subject, all);
  }

  /**
   * Criteria that rest on what the same feeds tell, in the order of their codes. What time alone has turned
   * since such a feed spoke last is neither met nor failed ({@link Silence}).
   */
  private enum Group {
    COVER(Subject::ownHorizon) {
      @Override
      List<Outcome> outcomes(Subject s) {
        return List.of(
            CoverCriteria.owner(s),
            CoverCriteria.covered(s),
            CoverCriteria.seen(s),
            CoverCriteria.agent(s),
            CoverCriteria.credentials(s),
            CoverCriteria.important(s));
      }
    },
    POINTS(Subject::horizon) {
      @Override
      List<Outcome> outcomes(Subject s) {
        return List.of(
            FreshnessCriteria.exposureNow(s),
            FreshnessCriteria.worstExposure(s),
            FreshnessCriteria.attainment(s),
            ScheduleCriteria.onPaper(s),
            ScheduleCriteria.window(s),
            ScheduleCriteria.lastOutcomes(s),
            ScheduleCriteria.pace(s),
            HistoryCriteria.reach(s),
            HistoryCriteria.slots(s),
            HistoryCriteria.onPaper(s),
            HistoryCriteria.lifetime(s),
            HistoryCriteria.goneEarly(s));
      }
    },
    COPIES(Subject::copiesHorizon) {
      @Override
      List<Outcome> outcomes(Subject s) {
        List<Outcome> outcomes = new ArrayList<>(CopyCriteria.count(s));
        outcomes.add(CopyCriteria.deadline(s));
        outcomes.add(CopyCriteria.independent(s));
        outcomes.add(CopyCriteria.residency(s));
        outcomes.add(CopyCriteria.redundancy(s));
        outcomes.add(SafeguardCriteria.encrypted(s));
        outcomes.add(SafeguardCriteria.locked(s));
        outcomes.add(SafeguardCriteria.lockCoversRetention(s));
        outcomes.add(SafeguardCriteria.deletion(s));
        return outcomes;
      }
    },
    NEWEST(Subject::horizon) {
      @Override
      List<Outcome> outcomes(Subject s) {
        return List.of(
            SoundnessCriteria.complete(s),
            SoundnessCriteria.skipped(s),
            SoundnessCriteria.consistency(s),
            SoundnessCriteria.preStep(s),
            SoundnessCriteria.sourceRole(s),
            SoundnessCriteria.size(s),
            SoundnessCriteria.chain(s),
            SoundnessCriteria.chainLength(s),
            SoundnessCriteria.fullAge(s));
      }
    },
    OWN(Subject::horizon) {
      @Override
      List<Outcome> outcomes(Subject s) {
        return s.standard().own().stream().map(o -> o.judge(s)).toList();
      }
    };

    private final Function<Subject, Instant> horizon;

    Group(Function<Subject, Instant> horizon) {
      this.horizon = horizon;
    }

    abstract List<Outcome> outcomes(Subject s);

    List<Outcome> judge(Subject s) {
      return Silence.of(s, outcomes(s), horizon.apply(s), this::outcomes);
    }
  }

  private static Feed resourceFeed(Subject s) {
    Feed feed = s.estate().feed(s.resource().feed());
    return feed != null && feed.overdueAt(s.asAt()) ? feed : null;
  }

  /** The first of the feeds that tell of the resource or its points that is silent; null when none. */
  public static Feed firstOverdue(Subject s) {
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
