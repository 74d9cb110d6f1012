package hardproof.core.retention;

import java.time.Instant;

/**
 * A stretch of the calendar that must hold a point.
 *
 * @param from inclusive
 * @param until exclusive
 * @param label {@code 2026-11-24}, {@code 2026-W48}, {@code 2026-11} or {@code 2026}
 */
public record Slot(SlotKind kind, Instant from, Instant until, String label) {
  public boolean holds(Instant dataTime) {
    return !dataTime.isBefore(from) && dataTime.isBefore(until);
  }
}
