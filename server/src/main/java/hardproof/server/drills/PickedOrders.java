package hardproof.server.drills;

import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.Draw;
import hardproof.core.programmes.Pick;
import hardproof.core.programmes.PointChoice;
import hardproof.proving.checks.Check;
import hardproof.server.runs.RunOrder;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Orders whose point and copy nobody named: a programme says how they are chosen. */
public final class PickedOrders {
  private final DrillOrders orders;

  public PickedOrders(DrillOrders orders) {
    this.orders = orders;
  }

  /**
   * How the point and the copy are chosen.
   *
   * @param checks asked besides those that are kept with the resource, where they suit the method
   */
  public record Choice(PointChoice point, CopyChoice copy, List<Check> checks, Duration hold) {}

  /**
   * A complete order.
   *
   * @param drawn null where no point is drawn
   * @param method null for the one that shows the most
   * @throws DrillOrders.OrderRefused when there is nothing to drill, with what would do
   */
  public RunOrder of(
      Estate estate,
      Resource resource,
      Pick pick,
      Choice choice,
      Draw.@Nullable Candidate drawn,
      @Nullable Method method,
      String reason) {
    RecoveryPoint point = pick.point(choice.point(), drawn)
        .orElseThrow(() -> new DrillOrders.OrderRefused(
            resource.name() + " has no usable recovery point to drill, asked for "
                + choice.point().words() + "."));
    String store = pick.store(
            choice.copy(), Pick.holding(estate, point), key -> readable(estate, key))
        .orElseThrow(() -> noCopy(estate, point, choice.copy()));
    RunOrder order = orders.complete(
        estate,
        new RunOrder(resource.key(), point.key(), store, method, null, reason, choice.hold()));
    return orders.alsoAsking(order, choice.checks());
  }

  private static DrillOrders.OrderRefused noCopy(
      Estate estate, RecoveryPoint point, CopyChoice copy) {
    String what =
        "No store holds every artifact of the chain of " + point.key() + " with a known place";
    boolean anyWouldDo = copy.way() == CopyChoice.Way.ANY || copy.way() == CopyChoice.Way.NOT_LAST;
    return new DrillOrders.OrderRefused(
        anyWouldDo
            ? what + ". Bring in the field place of copies."
            : what + ", asked for " + words(estate, copy) + ".");
  }

  private boolean readable(Estate estate, String key) {
    return estate.store(key) != null && orders.reachable(estate.store(key));
  }

  private static String words(Estate estate, CopyChoice copy) {
    return copy.words(copy.store() == null ? null : estate.storeName(copy.store()));
  }
}
