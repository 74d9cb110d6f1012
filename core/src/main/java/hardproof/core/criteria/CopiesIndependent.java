package hardproof.core.criteria;

import hardproof.core.wording.Wording;
import java.util.List;

/** Does every copy stand by itself? */
final class CopiesIndependent extends ShippedCriterion {
  CopiesIndependent() {
    super(
        Group.COPIES,
        "Independence",
        "No copy shares a failure domain with the data or with another copy.",
        List.of("NIST CP-6(1)", "NIST CP-9(3)", "CIS 11.4"));
  }

  @Override
  Judgement judge(Subject s) {
    if (s.readableCopies().isEmpty()) {
      return noCopy(s);
    }
    List<String> not = s.copyCount().notCounted();
    String counted = Wording.list(s.copyCount().counted());
    return Judgement.of(
        OutcomeState.metIf(not.isEmpty()),
        Measure.count(not.size()),
        Measure.count(0),
        sentence(not, counted),
        "stores in the failure domain of the data or of another store = " + not.size()
            + atMost(not.isEmpty()) + "0",
        List.of());
  }

  private static Judgement noCopy(Subject s) {
    return Judgement.unknown(
        "there is no usable copy of the last "
            + Wording.duration(s.demand().copyRule().freshness()),
        "copies = 0");
  }

  private static String sentence(List<String> not, String counted) {
    return not.isEmpty()
        ? "each copy has a failure domain of its own: " + counted
        : Wording.count(not.size(), "copy does", "copies do") + " not stand by itself: "
            + String.join("; ", not);
  }
}
