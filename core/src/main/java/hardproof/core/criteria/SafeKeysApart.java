package hardproof.core.criteria;

import hardproof.core.estate.Store;
import hardproof.core.wording.Wording;
import java.util.List;
import java.util.stream.IntStream;

/** A backup that nobody can open any more is lost with its key. */
final class SafeKeysApart extends ShippedCriterion {
  SafeKeysApart() {
    super(
        Group.SAFEGUARDS,
        "Keys outlast a loss",
        "No single site or failure domain takes every key that its encrypted points are opened with.",
        List.of("NIST CP-9(8)", "NIST CP-6(1)"),
        Parameter.KEYS_APART);
  }

  @Override
  Judgement judge(Subject s) {
    if (!s.demand().demands(Parameter.KEYS_APART)) {
      return Judgement.notDemanded();
    }
    boolean encrypted = IntStream.range(0, s.set().size())
        .anyMatch(row -> s.usable(row) && s.set().encrypted(row) == 1);
    if (!encrypted) {
      return Judgement.notAsked("none of its usable points is known to be encrypted");
    }
    List<String> places = s.protector().restoring().keyPlaces();
    if (places.isEmpty()) {
      return Judgement.unknown(
          "where the keys of " + s.resource().name() + " lie is not known",
          "places of keys = not known");
    }
    List<String> fatal = fatal(s);
    return Judgement.of(
        OutcomeState.metIf(fatal.isEmpty()),
        Measure.count(fatal.size()),
        Measure.count(0),
        fatal.isEmpty()
            ? "the keys of " + s.resource().name() + " lie at " + Wording.list(places)
                + ": no one loss takes them all"
            : "the keys of " + s.resource().name() + " lie only at " + Wording.list(places) + ": "
                + Wording.list(fatal) + (fatal.size() == 1 ? " takes" : " take") + " them all",
        "single losses that take every key = " + fatal.size() + atMost(fatal.isEmpty()) + "0",
        List.of(new FactRef("resources", s.protector().key())));
  }

  private static List<String> fatal(Subject s) {
    List<Store> stores = s.estate().facts().stores();
    return SingleLosses.of(s).stream()
        .filter(loss -> loss.takesKeys(s.protector(), stores))
        .map(loss -> "the loss of " + loss.words())
        .toList();
  }
}
