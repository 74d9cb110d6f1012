package hardproof.server.insights;

import hardproof.core.estate.Kind;
import hardproof.core.facts.Estate;
import hardproof.core.programmes.DrawnDrills;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** How sure drawn drills make us, in sentences and by kind and store. */
record SureView(List<String> sentences, List<StratumView> strata, List<TierView> tiers) {
  /**
   * The points of a kind on a store.
   *
   * @param atLeast the share that can be restored, with 95 % confidence; 0 where nothing was drawn
   */
  record StratumView(
      Kind kind, String store, int population, int drawn, int failed, double atLeast) {}

  /**
   * The points that are held to a tier.
   *
   * @param asked the share that the standard asks for; absent where it asks for none
   * @param stillNeeded draws without a failure that would show it; absent where nothing is asked, or no draw can
   */
  record TierView(
      int tier,
      int population,
      int drawn,
      int failed,
      double atLeast,
      @Nullable Double asked,
      @Nullable Integer stillNeeded) {}

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
            .toList(),
        sure.tiers().stream()
            .map(t -> new TierView(
                t.tier(),
                t.sure().population(),
                t.sure().drawn(),
                t.sure().failed(),
                t.atLeast(),
                t.asked(),
                t.stillNeeded()))
            .toList());
  }
}
