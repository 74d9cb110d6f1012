package hardproof.core.criteria;

import static hardproof.core.criteria.Criteria.metIf;
import static hardproof.core.criteria.Criteria.outcome;

import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.PointOutcome;
import hardproof.core.wording.Wording;
import java.util.List;
import java.util.Optional;

/** Does the newest point hold what it says? */
final class SoundnessCriteria {
  private SoundnessCriteria() {}

  private static Outcome none(CriterionCode code, Subject s) {
    return outcome(
        code,
        s,
        OutcomeState.NOT_ENOUGH_DATA,
        null,
        null,
        s.resource().name() + " has no recovery point",
        "points = 0",
        List.of());
  }

  static Outcome complete(Subject s) {
    Optional<Judged> newest = s.newest();
    if (newest.isEmpty()) {
      return none(CriterionCode.SOUND_COMPLETE, s);
    }
    PointOutcome found = newest.get().point().outcome();
    return outcome(
        CriterionCode.SOUND_COMPLETE,
        s,
        metIf(found == PointOutcome.COMPLETE),
        null,
        null,
        "the newest point, of " + Wording.time(newest.get().point().dataTime(), s.asAt()) + ", is "
            + found.code(),
        "outcome = " + found.code() + "; complete is demanded",
        List.of(new FactRef("points", newest.get().point().key())));
  }

  static Outcome chain(Subject s) {
    Optional<Judged> newest = s.newest();
    if (newest.isEmpty()) {
      return none(CriterionCode.SOUND_CHAIN, s);
    }
    Judged j = newest.get();
    boolean whole = j.chain().whole();
    long broken = s.points().stream().filter(p -> !p.chain().whole()).count();
    String sentence = whole
        ? "the newest point's chain is whole: "
            + Wording.count(j.chain().length(), "point", "points") + " back to its full"
        : "the newest point can't be restored: " + j.chain().breakSentence() + "; "
            + Wording.count(broken, "point hangs", "points hang") + " from broken chains";
    return outcome(
        CriterionCode.SOUND_CHAIN,
        s,
        metIf(whole),
        Measure.count(j.chain().length()),
        null,
        sentence,
        "based-on followed from " + j.point().key(),
        j.chain().points().stream()
            .limit(5)
            .map(p -> new FactRef("points", p.key()))
            .toList());
  }
}
