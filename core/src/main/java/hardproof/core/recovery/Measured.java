package hardproof.core.recovery;

import hardproof.core.drills.DrillFact;

/** What a drill took, and for how much. */
record Measured(long bytes, long millis) {
  static Measured of(DrillFact drill) {
    return new Measured(drill.bytes(), drill.took().toMillis());
  }
}
