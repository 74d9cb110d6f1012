package hardproof.server.demo;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;

/** A clock that is set by hand, for days that are made up. */
final class SettableClock extends Clock {
  private volatile Instant instant;

  SettableClock(Instant instant) {
    this.instant = instant;
  }

  void set(Instant to) {
    instant = to;
  }

  @Override
  public Instant instant() {
    return instant;
  }

  @Override
  public ZoneId getZone() {
    return ZoneOffset.UTC;
  }

  @Override
  public Clock withZone(ZoneId zone) {
    return this;
  }
}
