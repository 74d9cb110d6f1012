package hardproof.core.moves;

import hardproof.core.points.RecoveryPoint;
import hardproof.core.recovery.TimeEstimate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What is needed until a resource is home as it was, and how far that is.
 *
 * @param steps all of them, in their order
 * @param carried the newest point made away that lies at home; null where none does
 * @param store at home that it would be read from; null where none has it
 * @param time of a restore from there; null where nobody knows
 */
public record Return(
    Move move,
    List<Step> steps,
    @Nullable RecoveryPoint carried,
    @Nullable String store,
    @Nullable TimeEstimate time) {
  /**
   * One of its steps.
   *
   * @param sentence for people: what shows it, or what is missing
   */
  public record Step(ReturnStep step, ReturnStep.State state, String sentence) {}

  public Return {
    steps = List.copyOf(steps);
  }

  /** Whether nothing is left to do. */
  public boolean over() {
    return steps.stream()
        .noneMatch(s -> s.state() == ReturnStep.State.OPEN || s.state() == ReturnStep.State.WAITS);
  }
}
