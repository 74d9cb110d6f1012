package hardproof.core.points;

import hardproof.core.wording.Coded;

/** How much of the data a recovery point holds by itself. */
public enum Form implements Coded {
  FULL(true),
  INCREMENTAL(false),
  DIFFERENTIAL(false),
  LOG(false),
  SNAPSHOT(true),
  REPLICA(true);

  private final boolean standsAlone;

  Form(boolean standsAlone) {
    this.standsAlone = standsAlone;
  }

  /** True when it can be restored without another point. */
  public boolean standsAlone() {
    return standsAlone;
  }
}
