package hardproof.server.schedule;

import hardproof.core.schedule.Recurrence;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.Optional;
import java.util.TimeZone;
import org.dmfs.rfc5545.DateTime;
import org.dmfs.rfc5545.recur.InvalidRecurrenceRuleException;
import org.dmfs.rfc5545.recur.RecurrenceRule;
import org.dmfs.rfc5545.recur.RecurrenceRule.RfcMode;
import org.dmfs.rfc5545.recur.RecurrenceRuleIterator;

/**
 * A recurrence rule (RFC 5545 section 3.3.10) in a zone. A local time that a clock change leaves out
 * is moved forward by the gap; one that comes twice is taken once.
 */
public final class RfcRecurrence implements Recurrence {
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
   * @throws IllegalArgumentException when the rule is none, or the zone is not known
   */
  public static RfcRecurrence of(String rule, String zone, Instant start) {
    ZoneId zoneId;
    try {
      zoneId = ZoneId.of(zone);
    } catch (java.time.DateTimeException e) {
      throw new IllegalArgumentException(
          "'" + zone + "' is no time zone; write it as Europe/Oslo or UTC", e);
    }
    try {
      RecurrenceRule read =
          new RecurrenceRule(rule.strip().replaceFirst("(?i)^RRULE:", ""), RfcMode.RFC5545_STRICT);
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
    } catch (InvalidRecurrenceRuleException | IllegalArgumentException e) {
      throw new IllegalArgumentException(
          "'" + rule + "' is no recurrence rule (" + e.getMessage()
              + "); write it as FREQ=DAILY;BYHOUR=2;BYMINUTE=30;BYSECOND=0",
          e);
    }
  }

  @Override
  public Optional<Instant> nextAfter(Instant instant) {
    RecurrenceRuleIterator dates = rule.iterator(start);
    if (rule.getCount() == null) {
      dates.fastForward(new DateTime(zone, instant.toEpochMilli()));
    }
    while (dates.hasNext()) {
      Instant next = Instant.ofEpochMilli(dates.nextMillis());
      if (next.isAfter(instant)) {
        return Optional.of(next);
      }
    }
    return Optional.empty();
  }
}
