package hardproof.core.criteria;

import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/** Evaluates every criterion for a resource. Pure. */
public final class Criteria {
  private final Subject subject;
  private final Map<Basis, Told> told = new EnumMap<>(Basis.class);

  /** How far a basis has been told of, and the feed of it that is overdue. */
  private record Told(Instant horizon, Feed overdue) {}

  private Criteria(Subject subject) {
    this.subject = subject;
  }

  /** One outcome for each criterion, in the order of {@link CriterionCode}; then one's own. */
  public static List<Outcome> evaluate(Subject subject) {
    Criteria criteria = new Criteria(subject);
    List<Outcome> all = new ArrayList<>();
    for (CriterionCode code : CriterionCode.values()) {
      all.add(criteria.outcome(code.basis(), code::judge));
    }
    for (OwnCriterion own : subject.standard().own()) {
      all.add(criteria.outcome(Basis.CHOSEN, own::judge));
    }
    return withExceptions(subject, all);
  }

  private Outcome outcome(Basis basis, Function<Subject, Outcome> judge) {
    Told of = told.computeIfAbsent(basis, b -> new Told(b.horizon(subject), b.overdue(subject)));
    Outcome outcome = Silence.of(subject, judge.apply(subject), of.horizon(), judge);
    // A feed that it depends on is silent: nothing can be said, good or bad.
    return of.overdue() == null || outcome.state() == OutcomeState.NOT_APPLICABLE
        ? outcome
        : outcome.overdue(of.overdue().overdueSentence(subject.asAt()));
  }

  /** The first of the feeds that tell of the resource or its points that is silent; null when none. */
  public static Feed firstOverdue(Subject s) {
    return s.feeds().stream().filter(f -> f.overdueAt(s.asAt())).findFirst().orElse(null);
  }

  private static List<Outcome> withExceptions(Subject subject, List<Outcome> outcomes) {
    List<AcceptedException> exceptions = subject.exceptions();
    return exceptions.isEmpty()
        ? outcomes
        : outcomes.stream().map(o -> withException(o, exceptions)).toList();
  }

  private static Outcome withException(Outcome outcome, List<AcceptedException> exceptions) {
    if (outcome.state() != OutcomeState.NOT_MET) {
      return outcome;
    }
    return exceptions.stream()
        .filter(e -> outcome.criterion().code().equals(e.criterion()))
        .findFirst()
        .map(e -> outcome.excepted(e.key()))
        .orElse(outcome);
  }
}
