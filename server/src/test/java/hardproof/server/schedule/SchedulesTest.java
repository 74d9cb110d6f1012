package hardproof.server.schedule;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.schedule.Schedule;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.scheduling.support.CronExpression;

class SchedulesTest {
  private static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");

  private static List<Instant> starts(Schedule schedule, Instant from, int count) {
    List<Instant> starts = new ArrayList<>();
    Instant at = from;
    for (int i = 0; i < count; i++) {
      at = schedule.recurrence().nextAfter(at).orElseThrow();
      starts.add(at);
    }
    return starts;
  }

  private static String field(Random random, int least, int most) {
    int value = least + random.nextInt(most - least + 1);
    return switch (random.nextInt(5)) {
      case 0 -> "*";
      case 1 -> "*/" + (1 + random.nextInt(6));
      case 2 -> value + "-" + Math.min(most, value + random.nextInt(4));
      case 3 -> value + "," + (least + random.nextInt(most - least + 1));
      default -> Integer.toString(value);
    };
  }

  /**
   * In UTC, against Spring's own reading of cron, over schedules drawn from a seed. Day of month and
   * day of week are not both restricted: Spring then asks for both, where POSIX is content with one.
   * No steps in the day of week either: Spring counts them from Monday, POSIX's week begins on Sunday.
   */
  @Test
  void cronStartsWhenAGeneralLibrarySaysSo() {
    Random random = new Random(11);
    for (int round = 0; round < 60; round++) {
      boolean byWeek = random.nextBoolean();
      String cron = field(random, 0, 59) + " " + field(random, 0, 23) + " "
          + (byWeek ? "*" : field(random, 1, 28)) + " " + field(random, 1, 12) + " "
          + (byWeek ? field(random, 0, 6).replaceFirst("/.*", "") : "*");
      CronExpression general = CronExpression.parse("0 " + cron);
      LocalDateTime at = LocalDateTime.ofInstant(NOW, ZoneOffset.UTC);
      List<Instant> expected = new ArrayList<>();
      for (int i = 0; i < 12; i++) {
        at = general.next(at);
        expected.add(at.toInstant(ZoneOffset.UTC));
      }
      assertThat(starts(Schedules.read(cron, null), NOW, 12)).as(cron).isEqualTo(expected);
    }
  }

  /** POSIX crontab: either of the two days is enough. 2026-12-01 is a Tuesday. */
  @Test
  void eitherOfTwoDaysIsEnough() {
    assertThat(starts(Schedules.read("0 0 1 * 3", null), NOW, 3))
        .containsExactly(
            Instant.parse("2026-11-25T00:00:00Z"),
            Instant.parse("2026-12-01T00:00:00Z"),
            Instant.parse("2026-12-02T00:00:00Z"));
  }

  /** Winter time begins on 25 October 2026, summer time on 28 March 2027 in Oslo. */
  @Test
  void theLongestGapKnowsClockChanges() {
    assertThat(Schedules.read("30 22 * * *", "Europe/Oslo").longestGap(NOW))
        .contains(Duration.ofHours(25));
    assertThat(Schedules.read("30 22 * * *", null).longestGap(NOW)).contains(Duration.ofHours(24));
    assertThat(Schedules.read("FREQ=WEEKLY;BYDAY=MO,TH;BYHOUR=2;BYMINUTE=0;BYSECOND=0", "UTC")
            .longestGap(NOW))
        .contains(Duration.ofDays(4));
  }

  @ParameterizedTest
  @CsvSource(delimiter = '|', textBlock = """
      every now and then|is no schedule; write an interval such as 24h
      FREQ=SOMETIMES|is no recurrence rule
      0 25 * * *|has '25' as hour, which goes from 0 to 23
      0h|is an interval of nothing
      """)
  void whatIsNoScheduleIsRefused(String text, String reason) {
    assertThatThrownBy(() -> Schedules.read(text, null))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining(reason);
  }

  @Test
  void anIntervalIsReadInOneSpelling() {
    assertThat(Schedules.read("24h", null)).isEqualTo(Schedules.read("PT24H", null));
    assertThat(Schedules.read("1d", "Europe/Oslo").zone()).isNull();
  }
}
