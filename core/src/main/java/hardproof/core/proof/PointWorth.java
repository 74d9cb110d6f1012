package hardproof.core.proof;

import hardproof.core.criteria.Parameter;
import hardproof.core.criteria.Standard;
import hardproof.core.criteria.Subject;
import hardproof.core.facts.BlastRadii;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What one point is worth: whether it can be restored, and what would be lost with it.
 *
 * @param whyNot why it can't be restored; null when it can
 * @param blastRadius points lost with it, itself included
 * @param reachLost by how much less far back one could go
 * @param whyKeep why deleting it is not safe; null when it is
 */
public record PointWorth(
    RecoveryPoint point,
    boolean usable,
    @Nullable String whyNot,
    int chainLength,
    int blastRadius,
    Duration reachLost,
    @Nullable String whyKeep) {

  /** Of every point, by resource in the estate's order, oldest first. */
  public static List<PointWorth> of(Estate estate, Standard standard) {
    return estate.each(r -> of(new Subject(estate, standard, r))).stream()
        .flatMap(List::stream)
        .toList();
  }

  private static List<PointWorth> of(Subject s) {
    if (s.throughParent()) {
      return List.of();
    }
    BlastRadii radii = s.blastRadii();
    List<PointWorth> all = new ArrayList<>();
    for (Judged judged : s.points()) {
      int row = judged.row();
      boolean usable = judged.usableAt(s.asAt());
      all.add(worth(s, radii, judged, row, usable));
    }
    return all;
  }

  private static PointWorth worth(
      Subject s, BlastRadii radii, Judged judged, int row, boolean usable) {
    return new PointWorth(
        judged.point(),
        usable,
        usable ? null : judged.whyNot() == null ? "it is not available yet" : judged.whyNot(),
        judged.chainLength(),
        radii.points(row),
        reachLost(s, radii, row),
        whyKeep(s, radii, row));
  }

  private static Instant data(Subject s, int row) {
    return Instant.ofEpochMilli(s.set().dataTime(row));
  }

  private static Duration reachLost(Subject s, BlastRadii radii, int row) {
    if (radii.oldest() < 0) {
      return Duration.ZERO;
    }
    int left = radii.oldestWithout(row);
    return Duration.between(data(s, radii.oldest()), left < 0 ? s.asAt() : data(s, left));
  }

  private static String whyKeep(Subject s, BlastRadii radii, int row) {
    int hanging = radii.points(row) - 1;
    if (hanging > 0) {
      return Wording.count(hanging, "point hangs", "points hang") + " from it";
    }
    if (!s.usable(row)) {
      return null;
    }
    int newest = radii.newestWithout(row);
    if (newest < 0) {
      return "it is the only usable point";
    }
    Duration exposure = Duration.between(data(s, newest), s.asAt());
    Duration rpo = s.demand().rpo();
    boolean newestOfAll = s.newestUsable().filter(j -> j.row() == row).isPresent();
    if (newestOfAll && exposure.compareTo(rpo) > 0) {
      return "without it " + Wording.duration(exposure) + " would be lost, over the RPO of "
          + Wording.duration(rpo);
    }
    Duration reach = Duration.between(data(s, radii.oldestWithout(row)), s.asAt());
    Duration demanded = s.demand().duration(Parameter.REACH);
    if (demanded != null
        && reach.compareTo(demanded) < 0
        && !reachLost(s, radii, row).isZero()) {
      return "without it the reach would be " + Wording.duration(reach) + ", under the "
          + Wording.duration(demanded) + " demanded";
    }
    return null;
  }
}
