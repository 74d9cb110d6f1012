package hardproof.core.rehearsals;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability;
import hardproof.core.losses.Loss;
import hardproof.core.order.RecoveryOrder;
import hardproof.core.points.Chain;
import hardproof.core.points.RecoveryPoint;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * The newest point at or before a moment, from a store that is left and has its whole chain.
 *
 * @param loss what is left out as if it were lost
 * @param readable whether a store can be read from here, by its key; one that can't is taken only where no other is left
 */
public record OfMoment(Estate estate, Instant moment, Loss loss, Predicate<String> readable)
    implements RecoveryOrder.Sources {
  @Override
  public @Nullable RecoveryPoint point(Usability usability) {
    long now = estate.asAt().toEpochMilli();
    PointSet set = usability.set();
    for (int row = set.size() - 1; row >= 0; row--) {
      if (set.dataTime(row) <= moment.toEpochMilli() && usability.usableAt(row, now)) {
        RecoveryPoint point = set.point(row);
        if (!stores(usability, point).isEmpty()) {
          return point;
        }
      }
    }
    return null;
  }

  /** Those with the whole chain; of these only what can be read from here, where any can. */
  @Override
  public List<String> stores(Usability usability, RecoveryPoint point) {
    PointSet own = usability.set();
    Set<String> whole = null;
    for (RecoveryPoint link : Chain.of(point, own::point).points()) {
      Set<String> here = left(usability, link);
      if (whole == null) {
        whole = here;
      } else {
        whole.retainAll(here);
      }
    }
    List<String> all = whole == null ? List.of() : List.copyOf(whole);
    List<String> now = all.stream().filter(readable).toList();
    return now.isEmpty()
        ? all.stream().sorted().toList()
        : now.stream().sorted().toList();
  }

  private Set<String> left(Usability usability, RecoveryPoint link) {
    Set<String> here = new TreeSet<>();
    Resource resource = estate.resource(link.resource());
    if (loss.taints(link.feed(), link.dataTime().toEpochMilli())) {
      return here;
    }
    boolean sealed = Boolean.TRUE.equals(link.encrypted())
        && resource != null
        && loss.takesKeys(resource, estate.facts().stores());
    if (sealed) {
      return here;
    }
    for (Copy copy : usability.set().copiesOf(link)) {
      Store store = estate.store(copy.store());
      if (store != null
          && copy.state() == CopyState.PRESENT
          && copy.place() != null
          && usability.readable(copy)
          && !loss.takes(store)
          && (!loss.intruder() || Loss.outlasts(copy, store, estate.asAt()))) {
        here.add(store.key());
      }
    }
    return here;
  }

  /** The one that shows the most. */
  @Override
  public Method method(Resource resource) {
    return Method.strongestFor(resource.kind());
  }
}
