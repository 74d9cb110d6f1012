package hardproof.core.alerts;

import hardproof.core.proof.Verdict;
import java.util.HashMap;
import java.util.Map;

/**
 * Of each workload the verdict that it got worse from, until it is as good again: one that was proven and is exposed, then
 * disproven, was proven. What is left out by an exception in between begins anew. Told of verdicts in the order in which they came.
 */
public final class VerdictsBefore {
  private final Map<String, Verdict> best = new HashMap<>();

  /** A workload has this verdict now; the same as before changes nothing. */
  public void now(String workload, Verdict verdict) {
    if (verdict == Verdict.EXCLUDED) {
      best.remove(workload);
    } else {
      // A later word in the order of verdicts is a better one.
      best.merge(workload, verdict, (was, is) -> is.compareTo(was) >= 0 ? is : was);
    }
  }

  /** By workload; the verdict that it has where it has not got worse. */
  public Map<String, Verdict> byWorkload() {
    return Map.copyOf(best);
  }
}
