package hardproof.core.plan;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What to do, the first thing first.
 *
 * @param causes how many there are
 * @param findings that lie behind them
 */
public record Plan(int causes, int findings, List<Step> steps) {
  /**
   * A cause with what mending it comes to after those before it are mended.
   *
   * @param night by whose end its drills are done, by capacity; null where it needs none, or there is none
   */
  public record Step(
      PlanCause cause, Effect effect, @Nullable Instant night) {}
}
