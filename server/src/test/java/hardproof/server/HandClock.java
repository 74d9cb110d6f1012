package hardproof.server;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;

/** A clock that tests move by hand. */
public final class HandClock extends Clock {
  private volatile Instant instant;

  public HandClock(Instant instant) {
    this.instant = instant;
  }

  public void set(Instant to) {
    instant = to;
  }

  public void forward(Duration by) {
    instant = instant.plus(by);
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
