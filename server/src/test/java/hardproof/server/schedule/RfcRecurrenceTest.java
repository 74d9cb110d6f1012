package hardproof.server.schedule;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The examples are those of RFC 5545 section 3.8.5.3, in America/New_York from 2 September 1997, 09:00. */
class RfcRecurrenceTest {
  private static final ZoneId NEW_YORK = ZoneId.of("America/New_York");
  private static final Instant START = local("1997-09-02T09:00");

  private static Instant local(String text) {
    return LocalDateTime.parse(text).atZone(NEW_YORK).toInstant();
  }

  private static List<String> dates(String rule, int atMost) {
    RfcRecurrence recurrence = RfcRecurrence.of(rule, "America/New_York", START);
    List<String> dates = new ArrayList<>();
    Instant at = START.minusMillis(1);
    for (int i = 0; i < atMost; i++) {
      Optional<Instant> next = recurrence.nextAfter(at);
      if (next.isEmpty()) {
        break;
      }
      at = next.get();
      dates.add(LocalDateTime.ofInstant(at, NEW_YORK).toString());
    }
    return dates;
  }

  @Test
  void dailyForTenOccurrences() {
    assertThat(dates("FREQ=DAILY;COUNT=10", 20))
        .hasSize(10)
        .startsWith("1997-09-02T09:00", "1997-09-03T09:00")
        .endsWith("1997-09-11T09:00");
  }

  @Test
  void everyOtherWeekOnTuesdayAndThursdayForEight() {
    assertThat(dates("FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH", 20))
        .containsExactly(
            "1997-09-02T09:00",
            "1997-09-04T09:00",
            "1997-09-16T09:00",
            "1997-09-18T09:00",
            "1997-09-30T09:00",
            "1997-10-02T09:00",
            "1997-10-14T09:00",
            "1997-10-16T09:00");
  }

  @Test
  void secondToLastMondayOfTheMonthForSixMonths() {
    assertThat(dates("FREQ=MONTHLY;COUNT=6;BYDAY=-2MO", 20))
        .containsExactly(
            "1997-09-22T09:00",
            "1997-10-20T09:00",
            "1997-11-17T09:00",
            "1997-12-22T09:00",
            "1998-01-19T09:00",
            "1998-02-16T09:00");
  }

  @Test
  void theWallClockStaysAcrossTheEndOfSummerTime() {
    // RFC 5545: "DAILY until December 24" stays at 09:00, first EDT and from 26 October on EST.
    RfcRecurrence daily =
        RfcRecurrence.of("FREQ=DAILY;UNTIL=19971224T000000Z", "America/New_York", START);
    assertThat(daily.nextAfter(local("1997-10-25T09:00"))).contains(local("1997-10-26T09:00"));
    assertThat(
            local("1997-10-26T09:00").toEpochMilli() - local("1997-10-25T09:00").toEpochMilli())
        .isEqualTo(25 * 3_600_000L);
    assertThat(daily.nextAfter(local("1997-12-23T09:00"))).isEmpty();
  }

  @Test
  void aTimeThatTheClockChangeLeavesOutIsMovedAndOneThatComesTwiceIsTakenOnce() {
    RfcRecurrence nightly = RfcRecurrence.of(
        "FREQ=DAILY;BYHOUR=2;BYMINUTE=30;BYSECOND=0",
        "Europe/Oslo",
        Instant.parse("2026-03-01T00:00:00Z"));
    // 29 March 2026, 02:30 does not exist in Oslo; 03:30 summer time is 01:30 UTC.
    assertThat(nightly.nextAfter(Instant.parse("2026-03-28T12:00:00Z")))
        .contains(Instant.parse("2026-03-29T01:30:00Z"));
    // 25 October 2026, 02:30 comes twice.
    Instant first = nightly.nextAfter(Instant.parse("2026-10-24T12:00:00Z")).orElseThrow();
    assertThat(nightly.nextAfter(first)).contains(Instant.parse("2026-10-26T01:30:00Z"));
  }

  @Test
  void nextIsStrictlyAfter() {
    RfcRecurrence daily =
        RfcRecurrence.of("FREQ=DAILY", "UTC", Instant.parse("2026-01-01T05:00:00Z"));
    Instant due = Instant.parse("2026-01-04T05:00:00Z");
    assertThat(daily.nextAfter(due.minusMillis(1))).contains(due);
    assertThat(daily.nextAfter(due)).contains(Instant.parse("2026-01-05T05:00:00Z"));
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "EVERY DAY", "FREQ=DAILY;COUNT=x", "FREQ=DAILY;BYHOUR=25", "COUNT=3"})
  void whatIsNoRuleIsRefused(String rule) {
    assertThatThrownBy(() -> RfcRecurrence.of(rule, "UTC", START))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("is no recurrence rule")
        .hasMessageContaining("FREQ=DAILY;BYHOUR=2");
  }

  @Test
  void whatIsNoZoneIsRefused() {
    assertThatThrownBy(() -> RfcRecurrence.of("FREQ=DAILY", "Europe/Atlantis", START))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("'Europe/Atlantis' is no time zone");
  }

  /** Counted from a later day it must be the same; against the plain counting from the beginning. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "FREQ=MINUTELY;INTERVAL=15",
        "FREQ=MINUTELY;INTERVAL=480;BYDAY=MO,SU",
        "FREQ=HOURLY;INTERVAL=6;BYMONTH=3,10",
        "FREQ=HOURLY;BYHOUR=1,2,3;BYMINUTE=30",
        "FREQ=MINUTELY;INTERVAL=7"
      })
  void oftenIsTheSameFromWhereverItIsCounted(String rule) throws Exception {
    Instant begin = Instant.parse("2026-02-27T22:07:00Z");
    for (String zone : List.of("Europe/Oslo", "UTC", "Pacific/Apia")) {
      var dates = new org.dmfs.rfc5545.recur.RecurrenceRule(rule)
          .iterator(begin.toEpochMilli(), java.util.TimeZone.getTimeZone(zone));
      List<Instant> all = new java.util.ArrayList<>();
      for (int i = 0; i < 40_000 && dates.hasNext(); i++) {
        all.add(Instant.ofEpochMilli(dates.nextMillis()));
      }
      RfcRecurrence recurrence = RfcRecurrence.of(rule, zone, begin);
      for (int i = 3; i < Math.min(all.size(), 40_000) - 60; i += 977) {
        Instant after = all.get(i);
        Iterator<Instant> found = recurrence.startsAfter(after);
        for (int k = i + 1; k < i + 50; k++) {
          Instant expected = all.get(k);
          // Of an hour that a clock change brings twice, both count the first.
          if (expected.isAfter(after)) {
            assertThat(found.next()).as("%s in %s after %s", rule, zone, after).isEqualTo(expected);
          }
        }
      }
    }
  }
}
