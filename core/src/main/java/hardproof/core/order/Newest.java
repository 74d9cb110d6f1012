package hardproof.core.order;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Usability;
import hardproof.core.points.RecoveryPoint;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The newest usable point, from any copy that can be read, as far as is demanded. */
record Newest(Estate estate, Standard standard) implements RecoveryOrder.Sources {
  @Override
  public @Nullable RecoveryPoint point(Usability usability) {
    long now = estate.asAt().toEpochMilli();
    for (int row = usability.set().size() - 1; row >= 0; row--) {
      if (usability.usableAt(row, now)) {
        return usability.set().point(row);
      }
    }
    return null;
  }

  @Override
  public List<String> stores(Usability usability, RecoveryPoint point) {
    return estate.copiesOf(point).stream()
        .filter(c -> c.state() == CopyState.PRESENT && usability.readable(c))
        .map(Copy::store)
        .toList();
  }

  @Override
  public Method method(Resource resource) {
    return Method.restoring(
        resource.kind(), standard.demandOn(estate.workload(resource.workload())).rung());
  }
}
