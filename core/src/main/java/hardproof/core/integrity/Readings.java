package hardproof.core.integrity;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Chain;
import hardproof.core.points.RecoveryPoint;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** When the artifacts of one resource were last read whole: by whoever told of it, by a drill, or by a sweep. */
final class Readings {
  private final Estate estate;
  private final String resource;
  private final PointSet set;
  private final Map<String, Map<String, Instant>> byStore = new HashMap<>();

  Readings(Estate estate, String resource) {
    this.estate = estate;
    this.resource = resource;
    this.set = estate.pointSet(resource);
  }

  /** Whether a copy should be there to be read. */
  static boolean canBeRead(Copy copy) {
    boolean there = copy.state() == CopyState.PRESENT || copy.state() == CopyState.DAMAGED;
    return there && copy.place() != null;
  }

  /** Null when it never was. */
  @Nullable
  Instant last(Copy copy) {
    Instant ours = byStore.computeIfAbsent(copy.store(), this::ours).get(copy.point());
    Instant told = copy.lastRead();
    return told == null ? ours : ours == null || told.isAfter(ours) ? told : ours;
  }

  /** By point, of a store. */
  private Map<String, Instant> ours(String store) {
    Map<String, Instant> reads = new HashMap<>();
    for (DrillFact drill : estate.drillsOf(resource)) {
      boolean readWhole =
          drill.method() == Method.READ_BACK || drill.passed() && drill.rung().atLeast(Rung.INTACT);
      if (!readWhole || !store.equals(drill.store())) {
        continue;
      }
      RecoveryPoint point = set.point(drill.point());
      if (drill.method() == Method.READ_BACK || point == null) {
        reads.put(drill.point(), drill.ended());
      } else {
        Chain.of(point, set::point).points().forEach(p -> reads.put(p.key(), drill.ended()));
      }
    }
    return reads;
  }
}
