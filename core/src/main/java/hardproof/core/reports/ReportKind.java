package hardproof.core.reports;

import hardproof.core.wording.Coded;

/** What can be handed out, by hand or on a schedule. */
public enum ReportKind implements Coded {
  PACK("Evidence pack", Period.BACK),
  JOBS("Jobs of backup, copy and restore", Period.BACK),
  UNPROTECTED("Unprotected resources", Period.NONE),
  LAPSING("Proofs about to lapse", Period.AHEAD),
  EXCEPTIONS("Exceptions", Period.NONE),
  DIGEST("Digest: what happened, and what lapses soon", Period.BACK),
  HEAD("Head of the ledger, for a witness", Period.NONE);

  /** Which time it tells of, seen from the instant that it is as at. */
  public enum Period implements Coded {
    NONE,
    BACK,
    AHEAD
  }

  private final String words;
  private final Period period;

  ReportKind(String words, Period period) {
    this.words = words;
    this.period = period;
  }

  public String words() {
    return words;
  }

  public Period period() {
    return period;
  }

  /** Whether it is tables; a pack and a head are files of their own. */
  public boolean tables() {
    return this != PACK && this != HEAD;
  }
}
