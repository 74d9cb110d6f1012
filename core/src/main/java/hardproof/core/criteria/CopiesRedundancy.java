package hardproof.core.criteria;

import hardproof.core.copies.Copy;
import hardproof.core.estate.Redundancy;
import hardproof.core.estate.Store;
import java.util.List;

/** Does one of its stores survive enough? */
final class CopiesRedundancy extends ShippedCriterion {
  CopiesRedundancy() {
    super(
        Group.COPIES,
        "Redundancy",
        "At least one counted copy lies on a store that survives what the tier demands.",
        List.of("NIST CP-6", "ISO A.8.14"),
        Parameter.REDUNDANCY);
  }

  @Override
  Judgement judge(Subject s) {
    Redundancy demanded = s.demand().redundancy();
    if (demanded == null) {
      return Judgement.notDemanded();
    }
    Redundancy best = null;
    Store on = null;
    boolean someUnknown = false;
    for (Copy copy : s.readableCopies()) {
      Store store = s.estate().store(copy.store());
      if (store == null || store.redundancy() == null) {
        someUnknown = true;
      } else if (best == null || store.redundancy().compareTo(best) > 0) {
        best = store.redundancy();
        on = store;
      }
    }
    boolean met = best != null && best.compareTo(demanded) >= 0;
    if (!met && (someUnknown || best == null)) {
      return Judgement.unknown(
          best == null && !someUnknown
              ? "there is no usable copy to judge"
              : "what the stores of its copies survive is not known of all of them; "
                  + demanded.words() + " is demanded of one",
          "best known = " + (best == null ? "none" : best.code()));
    }
    return Judgement.of(
        OutcomeState.metIf(met),
        null,
        null,
        on.name() + " keeps its copy " + best.words() + "; " + demanded.words() + " is demanded",
        best.code() + atLeast(met) + demanded.code(),
        List.of(new FactRef("stores", on.key())));
  }
}
