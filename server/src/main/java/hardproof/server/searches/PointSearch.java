package hardproof.server.searches;

import hardproof.core.drills.Method;
import hardproof.proving.checks.Check;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A search for the newest point of a resource that passes.
 *
 * @param store where points are read from; null for wherever each lies
 * @param goodPoint what was found; null while nothing is
 */
public record PointSearch(
    long id,
    String resource,
    @Nullable String store,
    Method method,
    List<Check> checks,
    Order order,
    Instant startedAt,
    Instant endedAt,
    Going going,
    @Nullable String goodPoint,
    String sentence,
    List<Tried> tried) {
  /** Who asked for it, and why. */
  public record Order(String requestedBy, String reason) {}

  /**
   * Which drill it waits for, and whether it is to end.
   *
   * @param run the drill that is waited for; null when none is
   */
  public record Going(boolean cancelAsked, @Nullable String run) {}

  /** A point that was tried; {@code passed} null while it is. */
  public record Tried(String point, String run, Boolean passed) {}

  public boolean ended() {
    return endedAt != null;
  }

  public String requestedBy() {
    return order.requestedBy();
  }

  public String reason() {
    return order.reason();
  }

  public boolean cancelAsked() {
    return going.cancelAsked();
  }

  public String run() {
    return going.run();
  }
}
