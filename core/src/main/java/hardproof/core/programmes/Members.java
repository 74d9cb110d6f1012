package hardproof.core.programmes;

import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import java.util.List;

/** The resources that a programme drills. */
public final class Members {
  private Members() {}

  /** Those in its scope of which anything is demanded that it asks for, and of which there are points. */
  public static List<Resource> of(ProgrammeTerms terms, Estate estate, Evaluation evaluation) {
    return estate.facts().resources().stream()
        .filter(r -> has(terms, estate, evaluation, r))
        .toList();
  }

  /** Whether a resource is one of them. */
  public static boolean has(
      ProgrammeTerms terms, Estate estate, Evaluation evaluation, Resource resource) {
    return terms.scope().matches(resource, estate.tierOf(resource))
        && demanded(terms, evaluation.resource(resource.key()))
        && !estate.pointsOf(resource.key()).isEmpty();
  }

  private static boolean demanded(ProgrammeTerms terms, ResourceResult result) {
    return terms.demanding() == null
        || (result != null
            && result.verdict() != Verdict.EXCLUDED
            && result.proof().demanded().atLeast(terms.demanding()));
  }
}
