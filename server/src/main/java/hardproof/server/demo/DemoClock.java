package hardproof.server.demo;

import hardproof.core.feeds.Values;
import hardproof.core.wording.WrongValue;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;

/**
 * The clock of a demo: it begins where the demo was left, or now where that is later, and goes as fast as it is told
 * to, so that weeks can be watched in minutes.
 */
public final class DemoClock extends Clock {
  /** Nobody could watch faster, and slower than the real one it would be of no use. */
  static final double FASTEST = 100_000;

  private final Instant begins;
  private final double pace;
  private final long beganNanos = System.nanoTime();

  DemoClock(Instant begins, double pace) {
    this.begins = begins;
    this.pace = pace;
  }

  /**
   * How many times as fast as the real one.
   *
   * @param text such as {@code 1h=2s}: an hour passes in two seconds
   * @throws WrongValue where it is no pace
   */
  public static double pace(String text) {
    String[] sides = text.split("=", -1);
    try {
      if (sides.length != 2) {
        throw new WrongValue("is no pace");
      }
      Duration passes = Values.duration(sides[0].strip());
      Duration in = Values.duration(sides[1].strip());
      double pace = in.isZero() ? 0 : (double) passes.toMillis() / in.toMillis();
      if (pace < 1 || pace > FASTEST) {
        throw new WrongValue("is slower than the real clock, or faster than anybody could watch");
      }
      return pace;
    } catch (WrongValue e) {
      throw new WrongValue(
          "'" + text + "' " + e.getMessage() + "; write it as 1h=2s: an hour passes in two seconds",
          e);
    }
  }

  /** How many times as fast as the real one it goes. */
  public double pace() {
    return pace;
  }

  @Override
  public Instant instant() {
    return begins.plusNanos((long) ((System.nanoTime() - beganNanos) * pace));
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
