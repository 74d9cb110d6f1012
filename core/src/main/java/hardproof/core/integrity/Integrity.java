package hardproof.core.integrity;

import hardproof.core.copies.Copy;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability;
import hardproof.core.points.Consistency;
import hardproof.core.points.RecoveryPoint;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What was read back, and what is bad.
 *
 * @param stores by key, in the order of the facts
 * @param damaged what was found last comes first
 */
public record Integrity(Map<String, Tally> stores, List<Damage> damaged) {
  /** What was read so lately counts as fresh. */
  public static final Duration FRESH = Duration.ofDays(30);

  public static Integrity of(Estate estate) {
    Map<String, Tally> stores = noTallies(estate);
    List<Damage> damaged = new ArrayList<>();
    for (Resource resource : estate.facts().resources()) {
      PointSet set = estate.pointSet(resource.key());
      if (set.size() > 0) {
        tally(estate, resource, set, stores);
        damaged.addAll(damage(estate, resource, set, stores));
      }
    }
    damaged.sort(Comparator.comparing(Damage::found)
        .reversed()
        .thenComparing(d -> d.point().key()));
    return new Integrity(stores, damaged);
  }

  private static Map<String, Tally> noTallies(Estate estate) {
    Map<String, Tally> stores = new LinkedHashMap<>();
    for (Store store : estate.facts().stores()) {
      stores.put(store.key(), Tally.NOTHING);
    }
    return stores;
  }

  private static void tally(
      Estate estate, Resource resource, PointSet set, Map<String, Tally> stores) {
    Instant fresh = estate.asAt().minus(FRESH);
    Readings readings = new Readings(estate, resource.key());
    for (int row = 0; row < set.size(); row++) {
      RecoveryPoint point = set.point(row);
      for (Copy copy : set.copiesOf(row)) {
        if (Readings.canBeRead(copy)) {
          long size = point.sizeBytes() == null ? 0 : point.sizeBytes();
          stores.computeIfPresent(
              copy.store(), (k, tally) -> tally.with(size, readings.last(copy), fresh));
        }
      }
    }
  }

  /** Copies and points that a drill, a sweep or a feed showed to be bad, with what hangs from them. */
  private static List<Damage> damage(
      Estate estate, Resource resource, PointSet set, Map<String, Tally> stores) {
    boolean any = estate.blamingOf(resource.key()).stream().anyMatch(DrillFact::failed);
    List<Damage> found = new ArrayList<>();
    Usability usability = null;
    for (int row = 0; row < set.size(); row++) {
      if (any || set.copiesOf(row).stream().anyMatch(Damage::told)) {
        usability = usability == null
            ? Usability.of(estate, resource.key(), Consistency.UNKNOWN)
            : usability;
        found.addAll(damage(new Damage.Looked(estate, resource, usability, row)));
      }
    }
    for (Damage damage : found) {
      if (damage.store() != null) {
        stores.computeIfPresent(damage.store(), (k, tally) -> tally.withDamage());
      }
    }
    return found;
  }

  private static List<Damage> damage(Damage.Looked at) {
    String point = at.point().key();
    DrillFact everywhere = at.usability().blamed(point, null);
    if (everywhere != null) {
      return List.of(Damage.everywhere(at, everywhere));
    }
    List<Damage> found = new ArrayList<>();
    for (Copy copy : at.set().copiesOf(at.row())) {
      DrillFact here = at.usability().blamed(point, copy.store());
      if (here != null || Damage.told(copy)) {
        found.add(Damage.of(at, copy, here));
      }
    }
    return found;
  }
}
