package hardproof.core.integrity;

import hardproof.core.copies.Copy;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.points.RecoveryPoint;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What a sweep over a store has to read, and in which order. */
public final class SweepPlan {
  private SweepPlan() {}

  /**
   * An artifact that should be on the store.
   *
   * @param sizeBytes 0 when not known
   * @param lastRead null when it never was
   */
  public record Artifact(
      String resource,
      String point,
      long sizeBytes,
      @Nullable Instant lastRead,
      Instant data) {}

  /** What was read least recently first, the never read before; then the older data. */
  public static List<Artifact> of(Estate facts, String store) {
    List<Artifact> artifacts = new ArrayList<>();
    for (Resource resource : facts.facts().resources()) {
      PointSet set = facts.pointSet(resource.key());
      Readings readings = new Readings(facts, resource.key());
      for (int row = 0; row < set.size(); row++) {
        RecoveryPoint point = set.point(row);
        for (Copy copy : set.copiesOf(row)) {
          if (copy.store().equals(store) && Readings.canBeRead(copy)) {
            artifacts.add(new Artifact(
                resource.key(),
                point.key(),
                point.sizeBytes() == null ? 0 : point.sizeBytes(),
                readings.last(copy),
                point.dataTime()));
          }
        }
      }
    }
    artifacts.sort(
        Comparator.comparing(Artifact::lastRead, Comparator.nullsFirst(Comparator.naturalOrder()))
            .thenComparing(Artifact::data)
            .thenComparing(Artifact::point));
    return artifacts;
  }
}
