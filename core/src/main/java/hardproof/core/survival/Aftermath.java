package hardproof.core.survival;

import hardproof.core.estate.Workload;
import hardproof.core.ladder.Rung;
import hardproof.core.losses.Loss;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What is left after a loss.
 *
 * @param lines one a workload, worst first
 * @param bytes to restore
 * @param backByTier milliseconds until the last workload of a tier that comes back is back
 */
public record Aftermath(Loss loss, List<Line> lines, long bytes, Map<Integer, Long> backByTier) {
  /**
   * What becomes of a workload.
   *
   * @param sentence the first cause
   * @param exposure how old the data of its oldest member is that comes back; null where one does not
   * @param reach how far back the points of the member go of which they go back least; null where one has none
   * @param back milliseconds until all of it is back; null where it is not, or nobody knows
   * @param rung the highest that all members were shown from a copy that is left; null where one was not
   */
  public record Line(
      Workload workload,
      Fate fate,
      String sentence,
      @Nullable Duration exposure,
      @Nullable Duration reach,
      Duration rpo,
      @Nullable Long back,
      Duration rto,
      @Nullable Rung rung,
      Rung demanded) {}

  static Aftermath of(Survival survival, Loss loss, int atOnce) {
    return new Trial(survival, loss, atOnce).aftermath();
  }

  /** How many workloads come to a fate. */
  public long count(Fate fate) {
    return lines.stream().filter(l -> l.fate() == fate).count();
  }

  /** For people: how many survive, are late and are lost, and when tier 1 is back. */
  public String sentence() {
    long all = lines.stream().filter(l -> l.fate() != Fate.HAD_NOTHING).count();
    List<String> parts = new ArrayList<>();
    parts.add(count(Fate.SURVIVES) + " of " + all + " survive");
    if (count(Fate.LATE) > 0) {
      parts.add(count(Fate.LATE) + " late");
    }
    if (count(Fate.NOT_KNOWN) > 0) {
      parts.add(count(Fate.NOT_KNOWN) + " not known");
    }
    parts.add(
        count(Fate.LOST) == 0
            ? "none is lost"
            : count(Fate.LOST) + (count(Fate.LOST) == 1 ? " is lost" : " are lost"));
    Long first = backByTier.get(Workload.STRICTEST);
    if (first != null) {
      boolean some = lines.stream()
          .anyMatch(l -> l.workload().heldTo() == Workload.STRICTEST && l.fate() == Fate.LOST);
      parts.add((some ? "what is left of tier 1 is back after " : "tier 1 is back after ")
          + Wording.duration(Duration.ofMillis(first)));
    }
    long nothing = count(Fate.HAD_NOTHING);
    if (nothing > 0) {
      parts.add(nothing + " had nothing to come back from before");
    }
    return String.join("; ", parts);
  }
}
