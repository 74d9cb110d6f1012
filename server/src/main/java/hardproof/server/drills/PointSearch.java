package hardproof.server.drills;

import hardproof.core.drills.Method;
import hardproof.proving.checks.Check;
import java.time.Instant;
import java.util.List;

/**
 * A search for the newest point of a resource that passes.
 *
 * @param store where points are read from; null for wherever each lies
 * @param run the drill that is waited for; null when none is
 * @param goodPoint what was found; null while nothing is
 */
public record PointSearch(
    long id,
    String resource,
    String store,
    Method method,
    List<Check> checks,
    String requestedBy,
    String reason,
    Instant startedAt,
    Instant endedAt,
    boolean cancelAsked,
    String run,
    String goodPoint,
    String sentence,
    List<Tried> tried) {
  /** A point that was tried; {@code passed} null while it is. */
  public record Tried(String point, String run, Boolean passed) {}

  public boolean ended() {
    return endedAt != null;
  }
}
