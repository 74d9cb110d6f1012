package hardproof.core.board;

import hardproof.core.ladder.Rung;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.WorkloadResult;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Where a workload stands on the ladder.
 *
 * @param rung reached now, 0 to 5; -1 when there is nothing at all
 * @param lapsed the rung that was reached once and is over its proof period; null when none
 * @param failed the rung that the newest drill failed to show; null when it passed
 * @param words the same for people and screen readers
 */
public record LadderStrip(
    int rung,
    int demanded,
    @Nullable Integer lapsed,
    @Nullable Integer failed,
    String words) {

  static LadderStrip of(WorkloadResult w, List<ResourceResult> members) {
    Rung standing = w.standing();
    Rung lapsed = lapsed(members);
    Rung failed = w.failed();
    String words = words(w, standing, lapsed, failed);
    return new LadderStrip(
        standing == null ? -1 : standing.number(),
        w.demanded().number(),
        lapsed == null ? null : lapsed.number(),
        failed == null ? null : failed.number(),
        words);
  }

  private static Rung lapsed(List<ResourceResult> members) {
    return members.stream()
        .filter(m -> m.proof().lapsed())
        .map(m -> m.proof().reached().rung())
        .max(Comparator.naturalOrder())
        .orElse(null);
  }

  private static String words(WorkloadResult w, Rung standing, Rung lapsed, Rung failed) {
    return (standing == null ? "nothing shown" : standing.code())
        + "; " + w.demanded().code() + " demanded"
        + (lapsed == null ? "" : "; " + lapsed.code() + " lapsed")
        + (failed == null ? "" : "; the newest drill failed to show " + failed.code());
  }
}
