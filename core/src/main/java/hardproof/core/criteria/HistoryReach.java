package hardproof.core.criteria;

import hardproof.core.facts.Usability.Judged;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/** How far back it can be brought. */
final class HistoryReach extends ShippedCriterion {
  HistoryReach() {
    super(
        Group.HISTORY,
        "Reach in fact",
        "The oldest usable point is at least as old as the tier demands.",
        List.of("NIST CP-9", "ISO A.8.13"),
        Parameter.REACH);
  }

  @Override
  Judgement judge(Subject s) {
    Duration demanded = s.demand().duration(Parameter.REACH);
    if (demanded == null) {
      return Judgement.notDemanded();
    }
    Optional<Judged> oldest = oldestUsable(s);
    Duration reach = reach(s, oldest);
    boolean met = reach.compareTo(demanded) >= 0;
    Instant firstSeen = s.resource().firstSeen();
    if (!met && (firstSeen == null || firstSeen.isAfter(s.asAt().minus(demanded)))) {
      return tooYoung(s, reach, demanded);
    }
    return judged(s, demanded, oldest, reach, met);
  }

  private static Optional<Judged> oldestUsable(Subject s) {
    return IntStream.range(0, s.set().size())
        .filter(s::usable)
        .mapToObj(s.points()::get)
        .findFirst();
  }

  private static Duration reach(Subject s, Optional<Judged> oldest) {
    return oldest.map(j -> Duration.between(j.point().dataTime(), s.asAt())).orElse(Duration.ZERO);
  }

  private static Judgement judged(
      Subject s, Duration demanded, Optional<Judged> oldest, Duration reach, boolean met) {
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.of(reach),
        Measure.of(demanded),
        oldest
            .map(j -> sentence(s, j, reach, demanded))
            .orElse(s.resource().name() + " has no usable point, so it reaches back not at all"),
        "as at − oldest usable data time = " + Wording.duration(reach) + atLeast(met)
            + Wording.duration(demanded),
        oldest.map(j -> List.of(new FactRef("points", j.point().key()))).orElse(List.of()));
  }

  private static Judgement tooYoung(Subject s, Duration reach, Duration demanded) {
    Instant firstSeen = s.resource().firstSeen();
    if (firstSeen == null) {
      return Judgement.unknown(
          "usable points reach back " + Wording.duration(reach) + " of the "
              + Wording.duration(demanded)
              + " demanded; since when the resource is there is not known",
          "first seen is not known");
    }
    String age = Wording.duration(Duration.between(firstSeen, s.asAt()));
    return Judgement.unknown(
        "not enough history: it was first seen " + age + " ago, " + Wording.duration(demanded)
            + " of reach are demanded",
        "as at − first seen " + age + " < " + Wording.duration(demanded));
  }

  private static String sentence(Subject s, Judged oldest, Duration reach, Duration demanded) {
    return "the oldest usable point is from " + Wording.time(oldest.point().dataTime(), s.asAt())
        + ": it reaches back " + Wording.duration(reach) + ", "
        + Wording.duration(reach.minus(demanded).abs())
        + (reach.compareTo(demanded) >= 0 ? " more than the " : " short of the ")
        + Wording.duration(demanded) + " demanded";
  }
}
