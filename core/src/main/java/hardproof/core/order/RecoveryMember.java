package hardproof.core.order;

import hardproof.core.estate.Resource;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.recovery.TimeEstimate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A resource that is brought back.
 *
 * @param with the resource whose points bring it back; itself, or one that it lies in
 * @param point the newest usable; null where there is none, so that nothing brings it back
 * @param store that it is read from; null where the resource it lies in brings it back, or nothing does
 * @param estimate of how long it takes alone; null where that is not known
 * @param needs what must be up before it, by key: resources, and the members of workloads that its own needs
 */
public record RecoveryMember(
    Resource resource,
    Resource with,
    @Nullable RecoveryPoint point,
    @Nullable String store,
    @Nullable TimeEstimate estimate,
    List<String> needs) {
  public RecoveryMember {
    needs = List.copyOf(needs);
  }

  RecoveryMember from(String otherStore, @Nullable TimeEstimate time) {
    return new RecoveryMember(resource, with, point, otherStore, time, needs);
  }

  /** Whether its own points bring it back. */
  public boolean byItself() {
    return with.key().equals(resource.key());
  }

  /** Whether it takes a time that nobody knows. */
  public boolean timeNotKnown() {
    return byItself() && point != null && estimate == null;
  }
}
