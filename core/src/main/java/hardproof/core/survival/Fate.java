package hardproof.core.survival;

import hardproof.core.wording.Coded;

/** What becomes of a workload in a loss, the worst first. */
public enum Fate implements Coded {
  /** Of a member nothing is left, or it needs one of which nothing is. */
  LOST,
  /** It comes back, but with older data than the RPO allows or later than the RTO. */
  LATE,
  /** It comes back; nobody knows when, or whether newer data was made since its feed last told. */
  NOT_KNOWN,
  /** It comes back inside RPO and RTO. */
  SURVIVES,
  /** It has nothing to come back from, whatever is lost. */
  HAD_NOTHING
}
