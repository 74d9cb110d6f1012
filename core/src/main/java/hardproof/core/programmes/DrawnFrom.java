package hardproof.core.programmes;

import hardproof.core.drills.DrillFact;
import hardproof.core.ladder.Rung;
import hardproof.core.programmes.Draw.Candidate;
import java.util.Set;

/**
 * A draw of a start, of what is looked at.
 *
 * @param candidates all that it was drawn from
 * @param runs the runs whose points were drawn
 * @param simple whether any point had the same chance as any other; else one of each resource was drawn
 * @param withoutResult points that were drawn, and whose drills came to no result
 */
public record DrawnFrom(
    Set<Candidate> candidates, Set<String> runs, boolean simple, int withoutResult) {
  public DrawnFrom {
    candidates = Set.copyOf(candidates);
    runs = Set.copyOf(runs);
  }

  /** Whether a drill says of its point that it can be restored, or that it can't. Reading alone shows neither. */
  public static boolean says(DrillFact drill) {
    return drill.failed() || (drill.passed() && drill.reaches().atLeast(Rung.RESTORED));
  }
}
