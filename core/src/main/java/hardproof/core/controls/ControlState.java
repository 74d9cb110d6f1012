package hardproof.core.controls;

import hardproof.core.criteria.OutcomeState;
import hardproof.core.wording.Coded;
import java.util.Map;

/**
 * What an assessor would write of a control, as far as it is looked at. The first two are the words of NIST SP 800-53A
 * for what an assessment finds; the rest says why neither can be said.
 */
public enum ControlState implements Coded {
  SATISFIED("satisfied, as far as looked at"),
  OTHER_THAN_SATISFIED("other than satisfied"),
  /** Nothing is broken, and something can't be judged: silence is never a pass. */
  NOT_ENOUGH_DATA("not enough data"),
  /** Nothing is broken but for what was accepted. */
  EXCEPTED("satisfied but for exceptions"),
  /** There is nothing that its criteria are asked of. */
  NOT_APPLICABLE("not applicable"),
  NOT_LOOKED_AT("not looked at");

  private final String words;

  ControlState(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }

  /** Of how many outcomes there are of each state; the worst decides. */
  static ControlState of(Map<OutcomeState, Integer> outcomes) {
    if (outcomes.containsKey(OutcomeState.NOT_MET)) {
      return OTHER_THAN_SATISFIED;
    } else if (outcomes.containsKey(OutcomeState.NOT_ENOUGH_DATA)) {
      return NOT_ENOUGH_DATA;
    } else if (outcomes.containsKey(OutcomeState.EXCEPTED)) {
      return EXCEPTED;
    }
    return outcomes.containsKey(OutcomeState.MET) ? SATISFIED : NOT_APPLICABLE;
  }
}
