package hardproof.core.criteria;

import hardproof.core.wording.Coded;

/** What a criterion comes to. */
public enum OutcomeState implements Coded {
  MET,
  NOT_MET,
  /** Silence is never a pass. */
  NOT_ENOUGH_DATA,
  NOT_APPLICABLE,
  /** Not met, and accepted by a valid exception; the arithmetic stays. */
  EXCEPTED;

  static OutcomeState metIf(boolean met) {
    return met ? MET : NOT_MET;
  }
}
