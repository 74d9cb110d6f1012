package hardproof.core.criteria;

import hardproof.core.facts.Usability.Judged;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/** What would be lost now, against the objective. */
final class FreshExposureNow extends ShippedCriterion {
  FreshExposureNow() {
    super(
        Group.FRESHNESS,
        "Exposure now",
        "What would be lost now is at most the RPO.",
        List.of("NIST CP-9", "CSF PR.DS-11"),
        Parameter.RPO);
  }

  @Override
  boolean urgent() {
    return true;
  }

  @Override
  Judgement judge(Subject s) {
    return s.newestUsable().map(j -> judge(s, j)).orElseGet(() -> nothingUsable(s));
  }

  private static Judgement nothingUsable(Subject s) {
    Duration rpo = s.demand().rpo();
    String sentence = s.newest()
        .map(j -> s.resource().name() + " has no usable recovery point: of the newest, "
            + j.point().key() + ", " + j.whyNot())
        .orElse(s.resource().name() + " has no recovery point at all");
    return Judgement.of(
        OutcomeState.NOT_MET,
        null,
        Measure.of(rpo),
        sentence,
        "exposure = as at − newest usable data time, demanded ≤ " + Wording.duration(rpo)
            + "; there is none, so everything would be lost",
        List.of(new FactRef("resources", s.resource().key())));
  }

  private static Judgement judge(Subject s, Judged newest) {
    Duration rpo = s.demand().rpo();
    Instant data = newest.point().dataTime();
    Duration exposure = Duration.between(data, s.asAt());
    Duration margin = exposure.minus(rpo);
    boolean met = margin.compareTo(Duration.ZERO) <= 0;
    String now = Wording.time(s.asAt(), s.asAt());
    String from = Wording.time(data, s.asAt());
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.of(exposure),
        Measure.of(rpo),
        "newest usable point is from " + from + "; at " + now + " that is "
            + Wording.duration(exposure) + ", " + Wording.duration(margin.abs())
            + (met ? " inside the " : " over the ") + Wording.duration(rpo) + " objective"
            + skipped(s, newest),
        "as at " + now + " − data time " + from + " = " + Wording.duration(exposure) + atMost(met)
            + "RPO " + Wording.duration(rpo),
        List.of(new FactRef("points", newest.point().key())));
  }

  /** Newer points that are not usable explain an exposure that a green job list would not. */
  private static String skipped(Subject s, Judged newestUsable) {
    int next = newestUsable.row() + 1;
    List<Judged> newer = s.points().subList(next, s.points().size()).stream()
        .filter(j -> j.point().dataTime().isAfter(newestUsable.point().dataTime()))
        .filter(j -> j.point().available() != null)
        .toList();
    return newer.isEmpty()
        ? ""
        : "; " + Wording.count(newer.size(), "newer point is", "newer points are") + " not usable: "
            + newer.get(0).whyNot();
  }
}
