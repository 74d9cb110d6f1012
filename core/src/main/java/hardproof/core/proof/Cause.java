package hardproof.core.proof;

import hardproof.core.criteria.FactRef;
import java.util.List;

/**
 * Why a member brings its workload to a verdict.
 *
 * @param facts what it rests on
 */
public record Cause(Verdict verdict, String resource, String sentence, List<FactRef> facts) {
  public Cause {
    facts = List.copyOf(facts);
  }
}
