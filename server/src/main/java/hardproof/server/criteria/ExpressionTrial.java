package hardproof.server.criteria;

import hardproof.core.criteria.Criteria;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.criteria.OwnCriterion;
import hardproof.core.criteria.Standard;
import hardproof.core.criteria.Subject;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.server.proof.Evaluated;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What an expression comes to on the facts of now.
 *
 * @param problem why the expression can't be right, with {@code line} and {@code column} from 1;
 *     absent when it can
 */
record ExpressionTrial(
    @Nullable String problem,
    @Nullable Integer line,
    @Nullable Integer column,
    int met,
    int notMet,
    int notEnoughData,
    List<ExpressionRow> rows) {
  private static final int ROWS_SHOWN = 100;

  /** What it comes to on one resource. */
  record ExpressionRow(String resource, String name, OutcomeState state, String sentence) {}

  static ExpressionTrial wrong(String problem, @Nullable Integer line, @Nullable Integer column) {
    return new ExpressionTrial(problem, line, column, 0, 0, 0, List.of());
  }

  static ExpressionTrial of(OwnCriterion own, Evaluated now) {
    Estate estate = now.estate();
    Standard with = only(own, now.evaluation().standard());
    int[] counts = new int[OutcomeState.values().length];
    List<ExpressionRow> rows = new ArrayList<>();
    for (Resource resource : estate.facts().resources()) {
      List<Outcome> outcomes = Criteria.evaluate(new Subject(estate, with, resource));
      Outcome outcome = outcomes.get(outcomes.size() - 1);
      counts[outcome.state().ordinal()]++;
      rows.add(
          new ExpressionRow(resource.key(), resource.name(), outcome.state(), outcome.sentence()));
    }
    rows.sort(Comparator.comparing((ExpressionRow r) -> r.state() == OutcomeState.NOT_MET ? 0 : 1)
        .thenComparing(r -> r.state().code())
        .thenComparing(ExpressionRow::name));
    return new ExpressionTrial(
        null,
        null,
        null,
        counts[OutcomeState.MET.ordinal()],
        counts[OutcomeState.NOT_MET.ordinal()] + counts[OutcomeState.EXCEPTED.ordinal()],
        counts[OutcomeState.NOT_ENOUGH_DATA.ordinal()],
        rows.stream().limit(ROWS_SHOWN).toList());
  }

  private static Standard only(OwnCriterion own, Standard base) {
    return new Standard(
        base.name(),
        base.version(),
        base.period(),
        base.zone(),
        base.tiers(),
        base.regions(),
        List.of(own));
  }
}
