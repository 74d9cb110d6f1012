package hardproof.core.criteria;

import hardproof.core.copies.Copy;
import hardproof.core.estate.Store;
import java.util.List;

/** Is anything left of it when whoever has an administrator's rights deletes all that can be deleted? */
final class CopiesSurviveIntruder extends ShippedCriterion {
  CopiesSurviveIntruder() {
    super(
        Group.COPIES,
        "Survives an intruder",
        "A usable point is left with its whole chain in copies that are offline, or locked beyond now.",
        List.of("NIST CP-9(8)", "CIS 11.4"),
        Parameter.SURVIVE_INTRUDER);
  }

  @Override
  Judgement judge(Subject s) {
    if (!s.demand().demands(Parameter.SURVIVE_INTRUDER)) {
      return Judgement.notDemanded();
    }
    if (s.newestUsable().isEmpty()) {
      return Judgement.unknown(
          s.resource().name() + " has no usable point that could be left", "usable points = 0");
    }
    boolean safe = LeftOver.any(s, false, c -> outlasts(s, c, false));
    if (!safe && LeftOver.any(s, false, c -> outlasts(s, c, true))) {
      return Judgement.unknown(
          "whether an administrator could delete all of " + s.resource().name()
              + " is not known: nobody says whether a store of its copies is online",
          "points left for sure = 0");
    }
    return Judgement.of(
        OutcomeState.metIf(safe),
        safe
            ? "a point of " + s.resource().name()
                + " is left in copies that are offline, or locked beyond now"
            : "an administrator could delete every copy of " + s.resource().name(),
        "a usable point whose chain is offline or locked beyond as at: " + (safe ? "yes" : "none"));
  }

  /**
   * @param hoping whether a store that nobody calls online counts as offline
   */
  private static boolean outlasts(Subject s, Copy copy, boolean hoping) {
    Store store = s.estate().store(copy.store());
    return store != null
        && (copy.lockedAt(s.asAt())
            || Boolean.FALSE.equals(store.online())
            || hoping && store.online() == null);
  }
}
