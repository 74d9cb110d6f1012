package hardproof.server.drills;

import hardproof.core.copies.Copy;
import hardproof.core.facts.PointSet;
import hardproof.core.points.RecoveryPoint;
import hardproof.proving.drills.Artifact;
import hardproof.proving.drills.Baseline;
import hardproof.server.runs.BaselineStore;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** The artifacts of points on a store, with what was found when they were read first. */
public final class DrillArtifacts {
  private final BaselineStore baselines;

  DrillArtifacts(BaselineStore baselines) {
    this.baselines = baselines;
  }

  /** Keeps what was found of artifacts that were read for the first time. */
  void keep(List<Baseline> found, String store, String run, Instant now) {
    baselines.keep(found, store, run, now);
  }

  /** The artifact of a point on a store; empty when its place is not known. */
  Optional<Artifact> of(PointSet own, RecoveryPoint point, String store) {
    return own.copiesOf(point).stream()
        .filter(c -> c.store().equals(store) && c.place() != null)
        .findFirst()
        .map(copy -> new Artifact(
            point.key(),
            copy.format(),
            copy.place(),
            point.sizeBytes(),
            copy.sha256(),
            copy.manifest(),
            baseline(point, store, copy),
            baselines.of(point.key(), store, Artifact.placeOfLinks(copy.place()))));
  }

  private Baseline baseline(RecoveryPoint point, String store, Copy copy) {
    return copy.sha256() == null && copy.manifest() == null
        ? baselines.of(point.key(), store, copy.place())
        : null;
  }

  /** The artifact of the newest full before a point that is on the same store; null when none is. */
  @Nullable
  Artifact before(PointSet own, RecoveryPoint point, String store) {
    for (int row = own.size() - 1; row >= 0; row--) {
      RecoveryPoint older = own.point(row);
      if (older.dataTime().isBefore(point.dataTime()) && older.form().standsAlone()) {
        Optional<Artifact> artifact = of(own, older, store);
        if (artifact.isPresent()) {
          return artifact.get();
        }
      }
    }
    return null;
  }
}
