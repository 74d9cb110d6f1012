package hardproof.core.criteria;

import static hardproof.core.criteria.Criteria.metIf;
import static hardproof.core.criteria.Criteria.outcome;

import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.ExposureCurve;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** Recovery-point arithmetic against the RPO. */
final class FreshnessCriteria {
  private FreshnessCriteria() {}

  static Outcome exposureNow(Subject s) {
    Duration rpo = s.demand().rpo();
    Optional<Judged> newest = s.newestUsable();
    if (newest.isEmpty()) {
      return outcome(
          CriterionCode.FRESH_EXPOSURE_NOW,
          s,
          OutcomeState.NOT_MET,
          null,
          Measure.of(rpo),
          noUsablePoint(s),
          "exposure = as at − newest usable data time ≤ " + Wording.duration(rpo)
              + "; there is none, so everything would be lost",
          List.of(new FactRef("resources", s.resource().key())));
    }
    Instant data = newest.get().point().dataTime();
    Duration exposure = Duration.between(data, s.asAt());
    Duration margin = exposure.minus(rpo);
    boolean met = margin.compareTo(Duration.ZERO) <= 0;
    String sentence = "newest usable point is from " + Wording.time(data, s.asAt())
        + "; at " + Wording.time(s.asAt(), s.asAt())
        + " that is " + Wording.duration(exposure)
        + ", " + Wording.duration(margin.abs())
        + (met ? " inside the " : " over the ") + Wording.duration(rpo) + " objective"
        + skipped(s, newest.get());
    return outcome(
        CriterionCode.FRESH_EXPOSURE_NOW,
        s,
        metIf(met),
        Measure.of(exposure),
        Measure.of(rpo),
        sentence,
        "as at " + Wording.time(s.asAt(), s.asAt()) + " − data time " + Wording.time(data, s.asAt())
            + " = " + Wording.duration(exposure) + " ≤ RPO " + Wording.duration(rpo),
        List.of(new FactRef("points", newest.get().point().key())));
  }

  static String noUsablePoint(Subject s) {
    return s.newest()
        .map(j -> s.resource().name() + " has no usable recovery point: of the newest, "
            + j.point().key() + ", " + j.whyNot())
        .orElse(s.resource().name() + " has no recovery point at all");
  }

  /** Newer points that are not usable explain an exposure that a green job list would not. */
  static String skipped(Subject s, Judged newestUsable) {
    int next = newestUsable.row() + 1;
    if (next == s.points().size()) {
      return "";
    }
    List<Judged> newer = s.points().subList(next, s.points().size()).stream()
        .filter(j -> j.point().dataTime().isAfter(newestUsable.point().dataTime()))
        .filter(j -> j.point().available() != null)
        .toList();
    if (newer.isEmpty()) {
      return "";
    }
    return "; " + Wording.count(newer.size(), "newer point is", "newer points are")
        + " not usable: " + newer.get(0).whyNot();
  }

  static Outcome worstExposure(Subject s) {
    ExposureCurve.Summary summary = over(s);
    Duration rpo = s.demand().rpo();
    String span = Wording.duration(s.period());
    if (summary.counted() == 0) {
      return outcome(
          CriterionCode.FRESH_EXPOSURE_WORST,
          s,
          OutcomeState.NOT_ENOUGH_DATA,
          null,
          Measure.of(rpo),
          nothingCounted(s),
          "counted time = 0",
          List.of());
    }
    Instant worstAt = Instant.ofEpochMilli(summary.worstAt());
    if (summary.worst().isEmpty()) {
      return outcome(
          CriterionCode.FRESH_EXPOSURE_WORST,
          s,
          OutcomeState.NOT_MET,
          null,
          Measure.of(rpo),
          "from " + Wording.time(worstAt, s.asAt()) + " on, within the last " + span + upTo(s)
              + ", there was no usable point at all",
          "exposure ≤ " + Wording.duration(rpo) + "; it is without limit while no point is usable",
          List.of());
    }
    Duration worst = Duration.ofMillis(summary.worst().getAsLong());
    boolean met = worst.compareTo(rpo) <= 0;
    return outcome(
        CriterionCode.FRESH_EXPOSURE_WORST,
        s,
        metIf(met),
        Measure.of(worst),
        Measure.of(rpo),
        "in the last " + span + upTo(s) + " at most " + Wording.duration(worst)
            + " would have been lost (at "
            + Wording.time(worstAt, s.asAt()) + "), "
            + Wording.duration(worst.minus(rpo).abs())
            + (met ? " inside the " : " over the ") + Wording.duration(rpo) + " objective",
        "max over the teeth of (end of tooth − newest usable data time) = "
            + Wording.duration(worst) + " ≤ RPO " + Wording.duration(rpo),
        List.of());
  }

  static Outcome attainment(Subject s) {
    ExposureCurve.Summary summary = over(s);
    double floor = s.demand().attainment();
    if (summary.attainment().isEmpty()) {
      return outcome(
          CriterionCode.FRESH_ATTAINMENT,
          s,
          OutcomeState.NOT_ENOUGH_DATA,
          null,
          Measure.share(floor),
          nothingCounted(s),
          "counted time = 0",
          List.of());
    }
    double attained = summary.attainment().getAsDouble();
    return outcome(
        CriterionCode.FRESH_ATTAINMENT,
        s,
        metIf(attained >= floor),
        Measure.share(attained),
        Measure.share(floor),
        "exposure was within the " + Wording.duration(s.demand().rpo()) + " objective for "
            + Wording.share(attained) + " of the last "
            + Wording.duration(Duration.ofMillis(summary.counted())) + upTo(s) + "; "
            + Wording.share(floor)
            + " is demanded",
        Wording.duration(Duration.ofMillis(summary.within())) + " within RPO ÷ "
            + Wording.duration(Duration.ofMillis(summary.counted())) + " counted = "
            + Wording.share(attained)
            + " ≥ " + Wording.share(floor),
        List.of());
  }

  private static String nothingCounted(Subject s) {
    String last = Wording.duration(s.period());
    return s.horizon().isAfter(s.asAt().minus(s.period()))
        ? s.resource().name() + " was not there yet in the last " + last
        : "its feed has told of nothing in the last " + last + "; it last spoke "
            + Wording.time(s.horizon(), s.asAt());
  }

  /** Said only where the period is not told of to its end. */
  private static String upTo(Subject s) {
    return s.horizon().isBefore(s.asAt())
        ? " as far as its feed has spoken (" + Wording.time(s.horizon(), s.asAt()) + ")"
        : "";
  }

  private static ExposureCurve.Summary over(Subject s) {
    return s.curve()
        .over(
            s.estate().asAt().minus(s.period()).toEpochMilli(),
            s.horizon().toEpochMilli(),
            s.demand().rpo().toMillis());
  }
}
