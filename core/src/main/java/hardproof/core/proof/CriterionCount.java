package hardproof.core.proof;

import hardproof.core.criteria.Criterion;
import hardproof.core.criteria.OutcomeState;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** How many resources do not meet a criterion, before and after a change. */
public record CriterionCount(String criterion, String title, int notMetBefore, int notMetAfter) {

  private int by() {
    return Math.abs(notMetAfter - notMetBefore);
  }

  private CriterionCount plus(CriterionCount other) {
    return new CriterionCount(
        criterion, title, notMetBefore + other.notMetBefore, notMetAfter + other.notMetAfter);
  }

  /** Those that differ, the largest change first. */
  public static List<CriterionCount> of(Evaluation before, Evaluation after) {
    Map<String, CriterionCount> counts = new TreeMap<>();
    count(before, 1, 0, counts);
    count(after, 0, 1, counts);
    return counts.values().stream()
        .filter(c -> c.by() > 0)
        .sorted(Comparator.comparing(CriterionCount::by)
            .reversed()
            .thenComparing(CriterionCount::criterion))
        .toList();
  }

  private static void count(
      Evaluation evaluation, int before, int after, Map<String, CriterionCount> counts) {
    evaluation.workloads().stream()
        .flatMap(w -> w.members().stream())
        .flatMap(m -> m.outcomes().stream())
        .filter(o -> o.state() == OutcomeState.NOT_MET)
        .forEach(o -> {
          Criterion c = o.criterion();
          counts.merge(
              c.code(),
              new CriterionCount(c.code(), c.title(), before, after),
              CriterionCount::plus);
        });
  }
}
