package hardproof.server.demo;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;

/** A clock that is set by hand, for days that are made up. From where it was set it goes on like any other. */
final class SettableClock extends Clock {
  private volatile Setting setting;

  private record Setting(Instant to, long atNanos) {}

  SettableClock(Instant instant) {
    set(instant);
  }

  final void set(Instant to) {
    setting = new Setting(to, System.nanoTime());
  }

  @Override
  public Instant instant() {
    Setting last = setting;
    return last.to().plusNanos(System.nanoTime() - last.atNanos());
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
