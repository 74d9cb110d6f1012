package hardproof.server.programmes;

import hardproof.core.drills.Method;
import hardproof.core.estate.Selector;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.PointChoice;
import hardproof.server.schedule.RfcRecurrence;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Drills that start by themselves: which resources, how often, and how.
 *
 * @param rule RFC 5545 recurrence rule
 * @param begins DTSTART of the rule
 * @param startWindow how late a start may still begin
 * @param method null for the one that shows the most of each kind
 * @param point which of a resource's points it drills
 * @param copy from which of the point's copies
 * @param handledUntil due starts up to here have been started or recorded as missed
 */
public record Programme(
    String key,
    String name,
    Selector scope,
    String rule,
    String zone,
    Instant begins,
    Duration startWindow,
    @Nullable Method method,
    PointChoice point,
    CopyChoice copy,
    Instant handledUntil) {
  public RfcRecurrence recurrence() {
    return RfcRecurrence.of(rule, zone, begins);
  }
}
