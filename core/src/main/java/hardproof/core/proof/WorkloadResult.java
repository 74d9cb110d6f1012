package hardproof.core.proof;

import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Workload;
import hardproof.core.ladder.Rung;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What came out for one workload.
 *
 * @param causes worst first; the first one decides the verdict; never empty
 * @param rung the lowest of its members; null when one of them has nothing at all
 * @param demanded the highest rung demanded of a member
 */
public record WorkloadResult(
    Workload workload,
    boolean unassigned,
    Verdict verdict,
    String sentence,
    List<Cause> causes,
    @Nullable Rung rung,
    Rung demanded,
    List<ResourceResult> members,
    List<Action> actions) {
  /**
   * The highest rung that the newest drill of a member tried to show and failed; null when the newest
   * drill of every member passed, or there was none.
   */
  public Rung failed() {
    return members.stream()
        .filter(m -> m.verdict() != Verdict.EXCLUDED)
        .map(ResourceResult::lastDrill)
        .filter(d -> d != null && d.failed())
        .map(DrillFact::reaches)
        .max(Comparator.naturalOrder())
        .orElse(null);
  }

  /**
   * The oldest instant that its verdict rests on, of the members of which nobody has told since as often as
   * their objectives ask; null when there is none.
   */
  public Instant byFactsOf() {
    return members.stream()
        .map(ResourceResult::byFactsOf)
        .filter(Objects::nonNull)
        .min(Comparator.naturalOrder())
        .orElse(null);
  }

  /**
   * The rung that still stands: what was reached, but below what has failed since. Null when nothing
   * was shown at all.
   */
  public Rung standing() {
    Rung failed = failed();
    if (rung == null || failed == null || !rung.atLeast(failed)) {
      return rung;
    }
    return failed == Rung.CLAIMED ? null : Rung.numbered(failed.number() - 1);
  }
}
