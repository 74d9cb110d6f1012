package hardproof.core.proof;

import hardproof.core.copies.CopyCount;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.Proof;
import hardproof.core.criteria.Subject;
import java.util.List;

/**
 * What came out for one resource.
 *
 * @param causes everything that speaks about it, worst first; never empty
 */
public record ResourceResult(
    Subject subject,
    List<Outcome> outcomes,
    Proof proof,
    List<Cause> causes,
    List<Action> actions) {

  public Verdict verdict() {
    return causes.get(0).verdict();
  }

  public CopyCount copies() {
    return subject.copyCount();
  }
}
