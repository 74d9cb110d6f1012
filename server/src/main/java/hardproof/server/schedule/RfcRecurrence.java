package hardproof.server.schedule;

import hardproof.core.schedule.Recurrence;
import hardproof.core.wording.WrongValue;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.Iterator;
import java.util.NoSuchElementException;
import java.util.Optional;
import java.util.TimeZone;
import org.dmfs.rfc5545.DateTime;
import org.dmfs.rfc5545.Duration;
import org.dmfs.rfc5545.recur.InvalidRecurrenceRuleException;
import org.dmfs.rfc5545.recur.RecurrenceRule;
import org.dmfs.rfc5545.recur.RecurrenceRule.RfcMode;
import org.dmfs.rfc5545.recur.RecurrenceRuleIterator;

/**
 * A recurrence rule (RFC 5545 section 3.3.10) in a zone. A local time that a clock change leaves out
 * is moved forward by the gap; one that comes twice is taken once.
 */
public final class RfcRecurrence implements Recurrence {
  private static final int LONGEST = 1_000;

  private final RecurrenceRule rule;
  private final TimeZone zone;
  private final DateTime start;

  private RfcRecurrence(RecurrenceRule rule, TimeZone zone, DateTime start) {
    this.rule = rule;
    this.zone = zone;
    this.start = start;
  }

  /**
   * @param start DTSTART: where counting begins; due only if the rule matches it
   * @throws WrongValue when the rule is none, or the zone is not known
   */
  public static RfcRecurrence of(String rule, String zone, Instant start) {
    ZoneId zoneId = zone(zone);
    try {
      return read(rule, start, zoneId);
    } catch (InvalidRecurrenceRuleException | IllegalArgumentException e) {
      throw new WrongValue(
          "'" + rule + "' is no recurrence rule (" + e.getMessage()
              + "); write it as FREQ=DAILY;BYHOUR=2;BYMINUTE=30;BYSECOND=0",
          e);
    }
  }

  private static ZoneId zone(String zone) {
    ZoneId zoneId;
    try {
      zoneId = ZoneId.of(zone);
    } catch (java.time.DateTimeException e) {
      throw new WrongValue("'" + zone + "' is no time zone; write it as Europe/Oslo or UTC", e);
    }
    return zoneId;
  }

  private static RfcRecurrence read(String rule, Instant start, ZoneId zoneId)
      throws InvalidRecurrenceRuleException {
    if (rule.length() > LONGEST) {
      throw new WrongValue("longer than " + LONGEST + " characters");
    }
    RecurrenceRule read =
        new RecurrenceRule(rule.strip().replaceFirst("(?i)^RRULE:", ""), RfcMode.RFC5545_STRICT);
    RuleBounds.check(read);
    LocalDateTime local = LocalDateTime.ofInstant(start, zoneId);
    TimeZone timeZone = TimeZone.getTimeZone(zoneId);
    RfcRecurrence recurrence = new RfcRecurrence(
        read,
        timeZone,
        new DateTime(
            timeZone,
            local.getYear(),
            local.getMonthValue() - 1,
            local.getDayOfMonth(),
            local.getHour(),
            local.getMinute(),
            local.getSecond()));
    recurrence.nextAfter(start);
    return recurrence;
  }

  @Override
  public Optional<Instant> nextAfter(Instant instant) {
    Iterator<Instant> starts = startsAfter(instant);
    return starts.hasNext() ? Optional.of(starts.next()) : Optional.empty();
  }

  @Override
  public Iterator<Instant> startsAfter(Instant instant) {
    DateTime from = new DateTime(zone, instant.toEpochMilli());
    RecurrenceRuleIterator dates = rule.iterator(counted(from));
    if (rule.getCount() == null) {
      dates.fastForward(from);
    }
    return new After(dates, instant);
  }

  /**
   * Where counting begins. A rule that comes round within a day in whole steps is the same counted from
   * the same hour of a later day, and need not go through millions of minutes.
   */
  private DateTime counted(DateTime from) {
    long steps = switch (rule.getFreq()) {
      case HOURLY -> 24;
      case MINUTELY -> 24 * 60;
      default -> 0;
    };
    DateTime near = from.addDuration(new Duration(-1, 2, 0));
    boolean whole = steps > 0 && steps % rule.getInterval() == 0 && rule.getCount() == null;
    return whole && near.after(start) ? timeOfStart(near) : start;
  }

  private DateTime timeOfStart(DateTime near) {
    return new DateTime(
        zone,
        near.getYear(),
        near.getMonth(),
        near.getDayOfMonth(),
        start.getHours(),
        start.getMinutes(),
        start.getSeconds());
  }

  /** The dates after an instant. */
  private static final class After implements Iterator<Instant> {
    private final RecurrenceRuleIterator dates;
    private final Instant instant;
    private Instant next;

    After(RecurrenceRuleIterator dates, Instant instant) {
      this.dates = dates;
      this.instant = instant;
    }

    @Override
    public boolean hasNext() {
      while (next == null && dates.hasNext()) {
        Instant date = Instant.ofEpochMilli(dates.nextMillis());
        next = date.isAfter(instant) ? date : null;
      }
      return next != null;
    }

    @Override
    public Instant next() {
      if (!hasNext()) {
        throw new NoSuchElementException("the rule has no later date");
      }
      Instant given = next;
      next = null;
      return given;
    }
  }
}
