package hardproof.core.criteria;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Are the steps of its recovery written down, and were they followed lately? */
final class CoverRunbook extends TriedCriterion {
  CoverRunbook() {
    super(
        "Runbook followed",
        "The steps of its recovery are written down and were followed within the period of the tier.",
        List.of("NIST CP-4", "NIST CP-10"),
        Parameter.RUNBOOK_TRIED_WITHIN);
  }

  @Override
  String what() {
    return "runbook";
  }

  @Override
  @Nullable
  String which(Subject s) {
    return s.resource().restoring().runbook();
  }

  @Override
  @Nullable
  Instant tried(Subject s) {
    return s.resource().restoring().runbookTried();
  }

  @Override
  @Nullable
  String notAsked(Subject s) {
    return null;
  }
}
