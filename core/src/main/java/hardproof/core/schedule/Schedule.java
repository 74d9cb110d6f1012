package hardproof.core.schedule;

import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.time.Instant;
import java.util.Iterator;
import java.util.Objects;
import java.util.Optional;

/**
 * When a policy's jobs start. Two schedules are equal when their text and zone are: the text is
 * what a person wrote, and the recurrence follows from it.
 */
public final class Schedule {
  /** A year and a month, so that both clock changes and the longest month are always inside. */
  static final Duration LOOKED_AHEAD = Duration.ofDays(400);

  /** Every 5 minutes for a week; gaps do not grow after that many starts in one rhythm. */
  static final int STARTS_LOOKED_AT = 2016;

  /** Where rules that name no beginning are counted from: a Monday at midnight UTC. */
  public static final Instant COUNTED_FROM = Instant.parse("2020-01-06T00:00:00Z");

  private final String text;
  private final String zone;
  private final Recurrence recurrence;
  private final Duration fixed;
  private volatile Gap kept;

  private record Gap(long day, Optional<Duration> longest) {}

  private Schedule(String text, String zone, Recurrence recurrence, Duration fixed) {
    this.text = Objects.requireNonNull(text);
    this.zone = zone;
    this.recurrence = Objects.requireNonNull(recurrence);
    this.fixed = fixed;
  }

  /**
   * @param text the rule as it was written
   * @param zone the zone it is in; null means UTC
   */
  public static Schedule of(String text, String zone, Recurrence recurrence) {
    return new Schedule(text, zone, recurrence, null);
  }

  /**
   * A start every so often, at no stated hour.
   *
   * @throws WrongValue when {@code interval} is not positive
   */
  public static Schedule every(Duration interval) {
    if (interval.isZero() || interval.isNegative()) {
      throw new WrongValue("is an interval of nothing");
    }
    Recurrence starts = after -> {
      long step = interval.toMillis();
      long since = after.toEpochMilli() - COUNTED_FROM.toEpochMilli();
      return Optional.of(Instant.ofEpochMilli(
          COUNTED_FROM.toEpochMilli() + (Math.floorDiv(since, step) + 1) * step));
    };
    return new Schedule(interval.toString(), null, starts, interval);
  }

  public String text() {
    return text;
  }

  /** Null means UTC. */
  public String zone() {
    return zone;
  }

  public Recurrence recurrence() {
    return recurrence;
  }

  /**
   * The longest time between two starts that follow each other, over the {@link #LOOKED_AHEAD} that
   * come after {@code from} (or the first {@link #STARTS_LOOKED_AT} starts, if that is less): what the
   * schedule can promise at best is never better than this. Empty when there are not two starts. It
   * may change with the day, as clock changes come and go, and is the same all day.
   */
  public Optional<Duration> longestGap(Instant from) {
    if (fixed != null) {
      return Optional.of(fixed);
    }
    long day = Math.floorDiv(from.toEpochMilli(), 86_400_000L);
    Gap gap = kept;
    if (gap == null || gap.day() != day) {
      gap = new Gap(day, findLongestGap(Instant.ofEpochMilli(day * 86_400_000L)));
      kept = gap;
    }
    return gap.longest();
  }

  private Optional<Duration> findLongestGap(Instant from) {
    Instant end = from.plus(LOOKED_AHEAD);
    Iterator<Instant> starts = recurrence.startsAfter(from);
    Instant before = null;
    Duration longest = null;
    for (int i = 0; i <= STARTS_LOOKED_AT && starts.hasNext(); i++) {
      Instant at = starts.next();
      if (before != null) {
        Duration gap = Duration.between(before, at);
        longest = longest == null || gap.compareTo(longest) > 0 ? gap : longest;
      }
      if (!at.isBefore(end)) {
        break;
      }
      before = at;
    }
    return Optional.ofNullable(longest);
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof Schedule s && text.equals(s.text) && Objects.equals(zone, s.zone);
  }

  @Override
  public int hashCode() {
    return Objects.hash(text, zone);
  }

  @Override
  public String toString() {
    return text;
  }
}
