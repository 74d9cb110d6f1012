package hardproof.core.criteria;

import hardproof.core.copies.Copy;
import hardproof.core.estate.Store;
import hardproof.core.wording.Wording;
import java.util.List;

/** Does it take several people to delete it? */
final class SafeDeletion extends ShippedCriterion {
  SafeDeletion() {
    super(
        Group.SAFEGUARDS,
        "Deletion needs two people",
        "At least one counted copy lies on a store where deleting needs enough people (as declared).",
        List.of("NIST CP-9(8)"),
        Parameter.DELETE_APPROVALS);
  }

  @Override
  Judgement judge(Subject s) {
    Long demanded = s.demand().value(Parameter.DELETE_APPROVALS);
    if (demanded == null) {
      return Judgement.notDemanded();
    }
    Store best = null;
    boolean someUnknown = s.readableCopies().isEmpty();
    for (Copy copy : s.readableCopies()) {
      Store store = s.estate().store(copy.store());
      if (store == null || store.deleteApprovals() == null) {
        someUnknown = true;
      } else if (best == null || store.deleteApprovals() > best.deleteApprovals()) {
        best = store;
      }
    }
    boolean met = best != null && best.deleteApprovals() >= demanded;
    if (!met && someUnknown) {
      return Judgement.unknown(
          s.readableCopies().isEmpty()
              ? "there is no usable copy to judge"
              : "how many people it takes to delete is not declared for every store of its copies",
          "best declared = " + (best == null ? "none" : best.deleteApprovals()));
    }
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.count(best.deleteApprovals()),
        Measure.count(demanded),
        "deleting its copy on " + best.name() + " takes "
            + Wording.count(best.deleteApprovals(), "person", "people") + " (declared); " + demanded
            + " are demanded",
        "the most people declared for one of its stores = " + best.deleteApprovals() + atLeast(met)
            + demanded,
        List.of(new FactRef("stores", best.key())));
  }
}
