package hardproof.core.criteria;

import hardproof.core.facts.PointSet;
import hardproof.core.wording.Wording;
import java.util.ArrayList;
import java.util.List;

/** Can nobody else read it? */
final class SafeEncrypted extends ShippedCriterion {
  SafeEncrypted() {
    super(
        Group.SAFEGUARDS,
        "Encrypted",
        "Every point that is fresh enough to count is encrypted.",
        List.of("NIST CP-9(8)", "CIS 11.3"),
        Parameter.ENCRYPTED);
  }

  @Override
  Judgement judge(Subject s) {
    if (!s.demand().demands(Parameter.ENCRYPTED)) {
      return Judgement.notDemanded();
    }
    List<FactRef> open = new ArrayList<>();
    int notKnown = 0;
    int judged = 0;
    for (int row = s.firstFresh(); row < s.set().size(); row++) {
      if (s.set().available(row) == PointSet.NONE) {
        continue;
      }
      judged++;
      if (s.set().encrypted(row) == PointSet.NONE) {
        notKnown++;
      } else if (s.set().encrypted(row) == 0) {
        open.add(new FactRef("points", s.set().key(row)));
      }
    }
    if (judged == 0 || (open.isEmpty() && notKnown > 0)) {
      return Judgement.unknown(
          judged == 0
              ? "there is no point " + s.freshWords()
              : "of " + Wording.count(notKnown, "point", "points") + " " + s.freshWords()
                  + " it is not known whether they are encrypted",
          "points judged = " + judged + ", not known = " + notKnown);
    }
    return Judgement.of(
        OutcomeState.metIf(open.isEmpty()),
        Measure.count(open.size()),
        Measure.count(0),
        open.isEmpty()
            ? "each of the " + judged + " points " + s.freshWords() + " is encrypted"
            : open.size() + " of " + Wording.count(judged, "point", "points") + " " + s.freshWords()
                + (open.size() == 1 ? " is" : " are") + " not encrypted",
        "points that are not encrypted = " + open.size() + atMost(open.isEmpty()) + "0",
        open.stream().limit(5).toList());
  }
}
