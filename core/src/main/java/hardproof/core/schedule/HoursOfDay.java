package hardproof.core.schedule;

import hardproof.core.wording.WrongValue;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The hours of each day in which something may go on, {@code from} inclusive to {@code until}
 * exclusive; {@code until} before {@code from} goes over midnight. Written {@code 22:00-06:00}, or as
 * the hours in which it may not: {@code not 08:00-18:00}.
 */
public record HoursOfDay(LocalTime from, LocalTime until) {
  private static final Pattern FORM = Pattern.compile(
      "(not\\s+)?(\\d{1,2}:\\d{2})\\s*-\\s*(\\d{1,2}:\\d{2})", Pattern.CASE_INSENSITIVE);

  /** Longer than this nothing is projected. */
  private static final int DAYS_LOOKED_AHEAD = 3660;

  public HoursOfDay {
    if (from.equals(until)) {
      throw new WrongValue("begins and ends at the same time; leave it empty for all day");
    }
  }

  /**
   * @throws WrongValue with what was expected
   */
  public static HoursOfDay parse(String text) {
    Matcher m = FORM.matcher(text.strip());
    if (!m.matches()) {
      throw new WrongValue("is not hours of a day; write 22:00-06:00, or not 08:00-18:00");
    }
    LocalTime a = time(m.group(2));
    LocalTime b = time(m.group(3));
    return m.group(1) == null ? new HoursOfDay(a, b) : new HoursOfDay(b, a);
  }

  private static LocalTime time(String text) {
    try {
      return LocalTime.parse(text.length() == 4 ? "0" + text : text);
    } catch (DateTimeException e) {
      throw new WrongValue("has '" + text + "', which is no time of day", e);
    }
  }

  /** The text that {@link #parse} reads back. */
  public String text() {
    return from + "-" + until;
  }

  /** A stretch of time in which these hours are. */
  public record Open(Instant opens, Instant closes) {
    public Duration length() {
      return Duration.between(opens, closes);
    }

    public boolean holds(Instant at) {
      return !at.isBefore(opens) && at.isBefore(closes);
    }
  }

  /**
   * The hours that hold {@code at}, or else those that come next.
   *
   * @param zone whose hours these are; a day of a clock change has its own length
   */
  public Open atOrAfter(Instant at, ZoneId zone) {
    // The hours of the day before may still be open.
    LocalDate day = at.atZone(zone).toLocalDate().minusDays(1);
    while (true) {
      Open open = on(day, zone);
      if (open.closes().isAfter(at) && open.closes().isAfter(open.opens())) {
        return open;
      }
      day = day.plusDays(1);
    }
  }

  /** The hours that begin on a day; of no length where a clock change leaves nothing of them. */
  private Open on(LocalDate day, ZoneId zone) {
    LocalDate closing = until.isAfter(from) ? day : day.plusDays(1);
    return new Open(
        day.atTime(from).atZone(zone).toInstant(),
        closing.atTime(until).atZone(zone).toInstant());
  }

  /**
   * When work that goes on only in these hours is done; empty when that takes longer than ten years.
   *
   * @param begin the earliest instant it may begin
   * @param work how long it takes while it goes on
   * @param zone whose hours these are; a day of a clock change has its own length
   */
  public Optional<Instant> done(Instant begin, Duration work, ZoneId zone) {
    Duration left = work;
    // The window of the day before may still be open.
    LocalDate day = begin.atZone(zone).toLocalDate().minusDays(1);
    for (int i = 0; i < DAYS_LOOKED_AHEAD; i++, day = day.plusDays(1)) {
      Open hours = on(day, zone);
      Instant start = hours.opens().isBefore(begin) ? begin : hours.opens();
      if (!start.isBefore(hours.closes())) {
        continue;
      }
      Duration open = Duration.between(start, hours.closes());
      if (left.compareTo(open) <= 0) {
        return Optional.of(start.plus(left));
      }
      left = left.minus(open);
    }
    return Optional.empty();
  }
}
