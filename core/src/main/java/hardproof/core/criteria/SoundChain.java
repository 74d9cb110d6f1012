package hardproof.core.criteria;

import hardproof.core.facts.Usability.Judged;
import hardproof.core.wording.Wording;
import java.util.List;
import java.util.stream.IntStream;

/** Is the chain of the newest point whole? */
final class SoundChain extends NewestPointCriterion {
  SoundChain() {
    super(
        "Chain whole", "The newest point's chain is whole back to a full.", List.of("NIST CP-10"));
  }

  @Override
  boolean urgent() {
    return true;
  }

  @Override
  Judgement judge(Subject s, Judged j) {
    int bad = s.badBase(j.row());
    boolean whole = j.chainWhole() && bad < 0;
    long broken = broken(s);
    String sentence = sentence(s, j, bad, whole, broken);
    return Judgement.of(
        OutcomeState.metIf(whole),
        Measure.count(j.chainLength()),
        null,
        sentence,
        why(j),
        facts(s, j));
  }

  private static long broken(Subject s) {
    return IntStream.range(0, s.set().size())
        .filter(row -> !s.usability().chainWhole(row) || s.badBase(row) >= 0)
        .count();
  }

  private static String sentence(Subject s, Judged j, int bad, boolean whole, long broken) {
    String why = bad < 0
        ? j.breakSentence()
        : "it hangs from " + s.set().key(bad) + ", and " + s.usability().whyNotAsBase(bad);
    return whole
        ? "the newest point's chain is whole: " + Wording.count(j.chainLength(), "point", "points")
            + " back to its full"
        : "the newest point can't be restored: " + why + "; "
            + Wording.count(broken, "point hangs", "points hang") + " from broken chains";
  }

  private static String why(Judged j) {
    return "based-on followed from " + j.point().key() + " to its full = "
        + Wording.count(j.chainLength(), "point", "points")
        + "; every base has to be complete and to have a copy that can be read";
  }

  private static List<FactRef> facts(Subject s, Judged j) {
    return s.usability().chainOf(j.point()).points().stream()
        .limit(5)
        .map(p -> new FactRef("points", p.key()))
        .toList();
  }
}
