package hardproof.core.insights;

import java.time.Instant;

/** From after an instant up to and with another. */
record Period(Instant from, Instant to) {
  boolean holds(Instant at) {
    return at.isAfter(from) && !at.isAfter(to);
  }
}
