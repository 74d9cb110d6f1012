package hardproof.server.insights;

import hardproof.core.estate.Kind;
import hardproof.core.facts.Estate;
import hardproof.core.programmes.DrawnDrills;
import java.util.List;

/** How sure drawn drills make us, in sentences and by kind and store. */
record SureView(List<String> sentences, List<StratumView> strata) {
  /**
   * The points of a kind on a store.
   *
   * @param atLeast the mean over resources of the share that can be restored, with 95 % confidence; 0 where nothing was drawn
   */
  record StratumView(
      Kind kind, String store, int population, int drawn, int failed, double atLeast) {}

  static SureView of(DrawnDrills sure, Estate estate) {
    return new SureView(
        sure.sentences(),
        sure.strata().stream()
            .map(s -> new StratumView(
                s.kind(),
                estate.storeName(s.store()),
                s.sure().population(),
                s.sure().drawn(),
                s.sure().failed(),
                s.atLeast()))
            .toList());
  }
}
