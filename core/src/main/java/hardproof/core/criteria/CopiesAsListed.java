package hardproof.core.criteria;

import hardproof.core.census.CensusFact;
import hardproof.core.copies.CopyState;
import hardproof.core.wording.Wording;
import java.util.Comparator;
import java.util.List;

/** Does the store itself say what is claimed of it? */
final class CopiesAsListed extends ShippedCriterion {
  CopiesAsListed() {
    super(
        Group.COPIES,
        "As the store lists it",
        "Every copy that is claimed lies on its store, as long, as old and as locked as it is claimed.",
        List.of("NIST CP-9", "NIST SI-7", "ISO A.8.13"));
  }

  /** Stores were listed by us. */
  @Override
  Basis basis() {
    return Basis.OURS;
  }

  @Override
  Judgement judge(Subject s) {
    List<CensusFact> found = s.estate().censusOf(s.protector().key());
    if (found.isEmpty()) {
      return Judgement.notAsked("no store of its copies has been listed");
    }
    List<CensusFact> differ = found.stream()
        .filter(c -> c.state().differs() && claimed(s, c))
        .sorted(Comparator.comparing(CensusFact::state).reversed())
        .toList();
    return Judgement.of(
        OutcomeState.metIf(differ.isEmpty()),
        Measure.count(differ.size()),
        Measure.count(0),
        sentence(s, differ),
        "copies that are not as their store lists them = " + differ.size()
            + atMost(differ.isEmpty()) + "0",
        differ.stream()
            .map(c -> new FactRef("points", c.point()))
            .distinct()
            .limit(FactRef.ENOUGH)
            .toList());
  }

  /** What its feed has taken back since is no difference any more. */
  private static boolean claimed(Subject s, CensusFact c) {
    int row = s.set().row(c.point());
    return row >= 0
        && s.set().copiesOf(row).stream()
            .anyMatch(copy -> copy.store().equals(c.store()) && copy.state() == CopyState.PRESENT);
  }

  private static String sentence(Subject s, List<CensusFact> differ) {
    if (differ.isEmpty()) {
      return "every copy is as its store lists it";
    }
    CensusFact worst = differ.get(0);
    String first = s.estate().storeName(worst.store()) + ": " + worst.sentence();
    int others = differ.size() - 1;
    return others == 0
        ? first
        : first + "; and " + Wording.count(others, "other copy", "other copies");
  }
}
