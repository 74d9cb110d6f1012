package hardproof.core.criteria;

import hardproof.core.copies.CopyCount;
import hardproof.core.wording.Wording;
import java.util.List;

/** Is any copy known to be bad? */
final class CopiesZeroErrors extends ShippedCriterion {
  CopiesZeroErrors() {
    super(
        Group.COPIES,
        "Zero errors",
        "No copy is damaged or failed to be read.",
        List.of("NIST CP-9(1)", "NIST SI-7"),
        Parameter.ERRORS,
        Parameter.COPY_FRESHNESS);
  }

  @Override
  boolean urgent() {
    return true;
  }

  @Override
  Judgement judge(Subject s) {
    CopyCount count = s.copyCount();
    int allowed = s.demand().copyRule().errorsAllowed();
    return Judgement.of(
        OutcomeState.metIf(count.errors() <= allowed),
        Measure.count(count.errors()),
        Measure.count(allowed),
        sentence(count),
        "damaged, failed in read-back or blamed by a drill = " + count.errors()
            + atMost(count.errors() <= allowed) + allowed
            + CopyFigure.ofFreshPoints(s),
        facts(s));
  }

  private static String sentence(CopyCount count) {
    return count.errors() == 0
        ? "no copy is known to be damaged"
        : Wording.count(count.errors(), "copy is", "copies are") + " damaged or failed to be read";
  }

  private static List<FactRef> facts(Subject s) {
    if (s.copyCount().errors() == 0) {
      return List.of();
    }
    return s.points().stream()
        .filter(j -> !s.usable(j) && j.span().until() > 0)
        .limit(FactRef.ENOUGH)
        .map(j -> new FactRef("points", j.point().key()))
        .toList();
  }
}
