package hardproof.core.controls;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OutcomeState;
import java.util.List;
import java.util.SortedMap;
import org.jspecify.annotations.Nullable;

/**
 * How a control came out.
 *
 * @param criteria those that serve it
 * @param whole over all tiers
 * @param tiers by tier, those that have an outcome; what is of no known tier counts in the strictest
 */
public record ControlResult(
    PublicControl control,
    ControlState state,
    List<CriterionCode> criteria,
    Tally whole,
    SortedMap<Integer, Tally> tiers) {
  /**
   * Outcomes of the criteria that serve a control.
   *
   * @param outcomes how many there are of each state; only states that there are
   * @param shareMet share of the time in which nobody found them broken, 0 to 1, over outcomes that can be judged; what
   *     an exception accepts counts as broken. Null where nothing was looked at
   */
  public record Tally(
      SortedMap<OutcomeState, Integer> outcomes, @Nullable Double shareMet) {
    public int count(OutcomeState state) {
      return outcomes.getOrDefault(state, 0);
    }
  }
}
