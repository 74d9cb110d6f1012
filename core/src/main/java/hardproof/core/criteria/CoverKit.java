package hardproof.core.criteria;

import hardproof.core.estate.Kind;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A physical server that can't be started from anything is not brought back by its data. */
final class CoverKit extends TriedCriterion {
  CoverKit() {
    super(
        "Recovery kit tried",
        "The boot medium or recovery kit of a physical server was tried within the period of the tier.",
        List.of("NIST CP-10", "NIST CP-4"),
        Parameter.KIT_TRIED_WITHIN);
  }

  @Override
  String what() {
    return "recovery kit";
  }

  @Override
  @Nullable
  String which(Subject s) {
    return s.resource().restoring().kit();
  }

  @Override
  @Nullable
  Instant tried(Subject s) {
    return s.resource().restoring().kitTried();
  }

  @Override
  @Nullable
  String notAsked(Subject s) {
    return s.resource().kind() == Kind.PHYSICAL_SERVER || which(s) != null
        ? null
        : "it is asked of physical servers, and of what is said to have one";
  }
}
