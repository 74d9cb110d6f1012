package hardproof.core.alerts;

import hardproof.core.wording.Coded;

/** What can happen that somebody must know. */
public enum AlertKind implements Coded {
  LEDGER_DIFFERS("The ledger differs"),
  VERDICT_WORSE("A verdict got worse"),
  DRILL_FAILED("A drill failed or took too long"),
  SCREEN_UNKNOWN("A screen is unknown"),
  POINT_OVERDUE("A point is overdue"),
  COPY_LATE("A copy is late"),
  FEED_OVERDUE("A feed is overdue"),
  EXCEPTION_ENDING("An exception ends soon"),
  CLEAN_UP_FAILED("A clean-up failed"),
  NOT_DELIVERED("A message could not be delivered"),
  REPORT_NOT_MADE("A report could not be made");

  private final String words;

  AlertKind(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }
}
