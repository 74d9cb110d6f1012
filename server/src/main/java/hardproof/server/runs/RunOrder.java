package hardproof.server.runs;

import hardproof.core.drills.Method;
import hardproof.proving.checks.Check;
import hardproof.proving.drills.DrillOptions;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What somebody wants drilled.
 *
 * @param point null for the newest usable point
 * @param store null for the first store that holds every artifact of the chain
 * @param method null for the one that shows the most of this kind
 * @param checks null for those that are kept for the resource
 * @param hold how long restored data stays so that a person can look; zero to remove it at once
 * @param options null for the usual ones
 */
public record RunOrder(
    String resource,
    @Nullable String point,
    @Nullable String store,
    @Nullable Method method,
    @Nullable List<Check> checks,
    String reason,
    Duration hold,
    @Nullable DrillOptions options) {

  public RunOrder(
      String resource,
      String point,
      String store,
      Method method,
      List<Check> checks,
      String reason,
      Duration hold) {
    this(resource, point, store, method, checks, reason, hold, null);
  }

  /** What was asked for when a run was queued. */
  public static RunOrder of(Run run) {
    return asking(run, run.checksAsked(), run.reason());
  }

  /** The same drill as a run's, with other checks. */
  public static RunOrder asking(Run run, List<Check> checks, String reason) {
    return new RunOrder(
        run.resource(),
        run.point(),
        run.store(),
        run.method(),
        checks,
        reason,
        run.hold(),
        run.options());
  }

  /** The same by other options. */
  public RunOrder with(DrillOptions others) {
    return new RunOrder(resource, point, store, method, checks, reason, hold, others);
  }

  /** The same with other checks. */
  public RunOrder asking(List<Check> others) {
    return new RunOrder(resource, point, store, method, others, reason, hold, options);
  }
}
