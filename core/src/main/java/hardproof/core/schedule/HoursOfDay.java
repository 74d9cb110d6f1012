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
      Instant opens = day.atTime(from).atZone(zone).toInstant();
      LocalDate closing = until.isAfter(from) ? day : day.plusDays(1);
      Instant closes = closing.atTime(until).atZone(zone).toInstant();
      Instant start = opens.isBefore(begin) ? begin : opens;
      if (!start.isBefore(closes)) {
        continue;
      }
      Duration open = Duration.between(start, closes);
      if (left.compareTo(open) <= 0) {
        return Optional.of(start.plus(left));
      }
      left = left.minus(open);
    }
    return Optional.empty();
  }
}
