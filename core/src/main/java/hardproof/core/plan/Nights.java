package hardproof.core.plan;

import hardproof.core.programmes.Capacity;
import hardproof.core.schedule.HoursOfDay;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Lays drill time into nights. */
final class Nights {
  private static final int FARTHEST = 3660;

  private final Capacity capacity;
  private HoursOfDay.Open night;
  private long leftMs;

  Nights(Capacity capacity, Instant now) {
    this.capacity = capacity;
    HoursOfDay.Open first = capacity.night(now);
    this.night = first.opens().isBefore(now) ? capacity.night(first.closes()) : first;
    this.leftMs = room();
  }

  private long room() {
    return night.length().toMillis() * capacity.atOnce();
  }

  /** The night in which so much is done; null where nothing is drilled, or never. */
  @Nullable
  Instant of(Duration takes) {
    if (takes.isZero() || capacity.atOnce() == 0) {
      return null;
    }
    long ms = takes.toMillis();
    for (int later = 0; ms > leftMs; later++) {
      if (later == FARTHEST) {
        return null; // Nobody plans so far ahead.
      }
      ms -= leftMs;
      night = capacity.night(night.closes());
      leftMs = room();
    }
    leftMs -= ms;
    return night.opens();
  }
}
