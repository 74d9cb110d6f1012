package hardproof.core.schedule;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ScheduleTest {
  private static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");
  private static final ZoneId BERLIN = ZoneId.of("Europe/Berlin");

  /** Weekdays at an hour of a zone, by java.time alone. */
  private static Recurrence weekdays(int hour) {
    return after -> {
      ZonedDateTime at = after.atZone(BERLIN).toLocalDate().atTime(hour, 0).atZone(BERLIN);
      while (!at.toInstant().isAfter(after) || at.getDayOfWeek().getValue() > 5) {
        at = at.toLocalDate().plusDays(1).atTime(hour, 0).atZone(BERLIN);
      }
      return Optional.of(at.toInstant());
    };
  }

  @Test
  void anIntervalHasOneGapAndStartsOnItsOwnGrid() {
    Schedule every3 = Schedule.every(Duration.ofHours(3));
    assertThat(every3.longestGap(NOW)).contains(Duration.ofHours(3));
    assertThat(every3.recurrence().nextAfter(Instant.parse("2026-11-24T09:00:00Z")))
        .contains(Instant.parse("2026-11-24T12:00:00Z"));
    assertThat(every3.text()).isEqualTo("PT3H");
    assertThatThrownBy(() -> Schedule.every(Duration.ZERO)).hasMessage("is an interval of nothing");
  }

  /** Friday to Monday is 72 h; over the weekend in which winter time begins it is 73 h. */
  @Test
  void theLongestGapOfWeekdaysIsTheWeekendWithAClockChange() {
    Schedule weekdays = Schedule.of("weekdays", "Europe/Berlin", weekdays(2));
    assertThat(weekdays.longestGap(NOW)).contains(Duration.ofHours(73));
    assertThat(NOW.atZone(BERLIN).getDayOfWeek()).isEqualTo(DayOfWeek.TUESDAY);
  }

  @Test
  void aScheduleThatStartsOnceHasNoGap() {
    Schedule once = Schedule.of(
        "once",
        null,
        after -> after.isBefore(NOW.plusSeconds(60))
            ? Optional.of(NOW.plusSeconds(60))
            : Optional.empty());
    assertThat(once.longestGap(NOW)).isEmpty();
    Schedule never = Schedule.of("never", null, after -> Optional.empty());
    assertThat(never.longestGap(NOW)).isEmpty();
  }

  @Test
  void schedulesAreEqualByWhatWasWritten() {
    assertThat(Schedule.of("a", "UTC", weekdays(1)))
        .isEqualTo(Schedule.of("a", "UTC", weekdays(2)));
    assertThat(Schedule.of("a", "UTC", weekdays(1)))
        .isNotEqualTo(Schedule.of("a", null, weekdays(1)));
    assertThat(Schedule.of("a", "UTC", weekdays(1)))
        .isNotEqualTo(Schedule.of("b", "UTC", weekdays(1)));
  }

  /** Fields as in POSIX crontab, "Extended description"; either of two days is enough. */
  @ParameterizedTest
  @CsvSource(delimiter = '|', textBlock = """
      30 2 * * *|[FREQ=DAILY;BYHOUR=2;BYMINUTE=30;BYSECOND=0]
      0 22 * * 1-5|[FREQ=DAILY;BYDAY=MO,TU,WE,TH,FR;BYHOUR=22;BYMINUTE=0;BYSECOND=0]
      0 0,12 1 */2 *|[FREQ=DAILY;BYMONTHDAY=1;BYMONTH=1,3,5,7,9,11;BYHOUR=0,12;BYMINUTE=0;BYSECOND=0]
      0 0 1,15 * 3|[FREQ=DAILY;BYMONTHDAY=1,15;BYHOUR=0;BYMINUTE=0;BYSECOND=0, FREQ=DAILY;BYDAY=WE;BYHOUR=0;BYMINUTE=0;BYSECOND=0]
      */20 3-4 * jan sun|[FREQ=DAILY;BYDAY=SU;BYMONTH=1;BYHOUR=3,4;BYMINUTE=0,20,40;BYSECOND=0]
      5 4 * * 7|[FREQ=DAILY;BYDAY=SU;BYHOUR=4;BYMINUTE=5;BYSECOND=0]
      10/25 1 * * *|[FREQ=DAILY;BYHOUR=1;BYMINUTE=10,35;BYSECOND=0]
      """)
  void cronBecomesRules(String cron, String rules) {
    assertThat(Cron.rules(cron).toString()).isEqualTo(rules);
    assertThat(Cron.looksLike(cron)).isTrue();
  }

  @ParameterizedTest
  @CsvSource(delimiter = '|', textBlock = """
      60 2 * * *|has '60' as minute, which goes from 0 to 59
      0 24 * * *|has '24' as hour, which goes from 0 to 23
      0 0 0 * *|has '0' as day of month, which goes from 1 to 31
      0 0 * foo *|has 'foo' as month, which goes from 1 to 12
      0 0 * * 5-2|has '5-2' as day of week, which goes from 0 to 7
      */0 0 * * *|has '0' as minute step, which goes from 1 to 59
      0 0 * *|is not five cron fields: minute, hour, day of month, month, day of week
      """)
  void cronThatCantBeRightIsRefused(String cron, String reason) {
    assertThatThrownBy(() -> Cron.rules(cron)).hasMessage(reason);
  }

  @Test
  void workGoesOnOnlyInItsHours() {
    HoursOfDay night = HoursOfDay.parse("22:00-06:00");
    ZoneId utc = ZoneId.of("UTC");
    Instant noon = Instant.parse("2026-11-24T12:00:00Z");
    assertThat(night.done(noon, Duration.ofHours(8), utc))
        .as("exactly one night")
        .contains(Instant.parse("2026-11-25T06:00:00Z"));
    assertThat(night.done(noon, Duration.ofHours(8).plusSeconds(1), utc))
        .as("a second more needs the next night")
        .contains(Instant.parse("2026-11-25T22:00:01Z"));
    assertThat(night.done(Instant.parse("2026-11-24T03:00:00Z"), Duration.ofHours(4), utc))
        .as("begun in the night of the day before")
        .contains(Instant.parse("2026-11-24T23:00:00Z"));
    assertThat(HoursOfDay.parse("not 06:00-22:00")).isEqualTo(night);
    assertThat(HoursOfDay.parse(night.text())).isEqualTo(night);
    assertThat(night.from()).isEqualTo(LocalTime.of(22, 0));
  }

  /** The night of 24 to 25 October 2026 is an hour longer in Berlin. */
  @Test
  void theNightOfAClockChangeHasItsOwnLength() {
    HoursOfDay night = HoursOfDay.parse("22:00-06:00");
    Instant evening = Instant.parse("2026-10-24T20:00:00Z");
    assertThat(night.done(evening, Duration.ofHours(9), BERLIN))
        .contains(Instant.parse("2026-10-25T05:00:00Z"));
  }

  @Test
  void whatWouldNeverBeDoneHasNoEnd() {
    HoursOfDay minute = HoursOfDay.parse("00:00-00:01");
    assertThat(minute.done(NOW, Duration.ofDays(60), BERLIN)).isEmpty();
  }

  /** Nearest rank: of 20 values the 19th, of 21 the 20th. */
  @Test
  void usualRunTimesAreTheMedianAndTheNearestRank() {
    List<Duration> twenty = java.util.stream.IntStream.rangeClosed(1, 20)
        .mapToObj(Duration::ofMinutes)
        .toList();
    RunTimes times = RunTimes.of(twenty);
    assertThat(times.median()).isEqualTo(Duration.ofSeconds(630));
    assertThat(times.p95()).isEqualTo(Duration.ofMinutes(19));
    assertThat(RunTimes.of(List.of(Duration.ofMinutes(7))).p95()).isEqualTo(Duration.ofMinutes(7));
    assertThat(RunTimes.of(List.of())).isNull();
  }
}
