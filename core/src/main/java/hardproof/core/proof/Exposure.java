package hardproof.core.proof;

import hardproof.core.criteria.Proof;
import hardproof.core.criteria.Standard;
import hardproof.core.criteria.Subject;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.points.ExposureCurve;
import java.time.Duration;
import java.util.List;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;

/**
 * What one resource would lose, and would have lost in the standard's period, without anything else
 * being judged: the figures that the criteria of freshness rest on.
 *
 * @param now null when no point is usable
 * @param worst null when at some counted instant none was, or nothing was counted
 * @param byProof what would be lost if only what drills have shown counted; null when nothing was shown
 * @param attainment share of the counted time within the RPO; null when nothing was counted
 */
public record Exposure(
    Resource resource,
    Duration rpo,
    @Nullable Duration now,
    @Nullable Duration worst,
    @Nullable Duration byProof,
    @Nullable Double attainment) {

  /** Of every resource of the estate, in its order. */
  public static List<Exposure> of(Estate estate, Standard standard) {
    return estate.each(r -> of(new Subject(estate, standard, r)));
  }

  private static Exposure of(Subject s) {
    Duration rpo = s.demand().rpo();
    long asAt = s.asAt().toEpochMilli();
    long told = s.horizon().toEpochMilli();
    ExposureCurve.Summary summary =
        s.curve().over(s.periodStart().toEpochMilli(), told, rpo.toMillis());
    boolean counted = summary.counted() > 0;
    OptionalLong now = s.curve().at(asAt);
    return new Exposure(
        s.resource(),
        rpo,
        now.isPresent() ? Duration.ofMillis(now.getAsLong()) : null,
        counted && summary.worst().isPresent()
            ? Duration.ofMillis(summary.worst().getAsLong())
            : null,
        Proof.of(s).loss().loss(),
        counted ? summary.attainment().getAsDouble() : null);
  }
}
