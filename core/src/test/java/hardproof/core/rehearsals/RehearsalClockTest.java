package hardproof.core.rehearsals;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.rehearsals.RehearsalClock.Work;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** The clock of rehearsals: from the begin to the last check, without waits for people. Minutes after ten. */
class RehearsalClockTest {
  private static Instant at(int minute) {
    return Instant.parse("2026-11-24T10:00:00Z").plus(Duration.ofMinutes(minute));
  }

  private static Work work(int begun, int worked, int settled) {
    return new Work(at(begun), at(worked), at(settled));
  }

  private static long minutes(Work... works) {
    return RehearsalClock.of(at(0), List.of(works)).toMinutes();
  }

  @Test
  void itRunsFromTheBeginToTheLastCheck() {
    assertThat(minutes()).isZero();
    assertThat(minutes(work(0, 41, 41), work(41, 58, 58))).isEqualTo(58);
    assertThat(minutes(work(5, 10, 10))).as("waiting for room counts").isEqualTo(10);
  }

  @Test
  void waitsForPeopleDoNotCount() {
    assertThat(minutes(work(0, 10, 70), work(70, 80, 80))).isEqualTo(20);
    assertThat(minutes(work(0, 10, 70), work(0, 30, 30), work(70, 80, 80)))
        .as("until 30 something went on")
        .isEqualTo(40);
    assertThat(minutes(work(0, 10, 70)))
        .as("after the last check nothing counts")
        .isEqualTo(10);
    assertThat(minutes(work(0, 10, 50), work(0, 20, 60), work(60, 65, 65)))
        .as("two at once wait once")
        .isEqualTo(25);
  }

  /** Minute by minute: something is at work, or nothing awaits a word. */
  @Test
  void itIsWhatCountingMinutesGives() {
    Random random = new Random(4);
    for (int trial = 0; trial < 2000; trial++) {
      List<Work> works = new ArrayList<>();
      for (int i = 0; i < 1 + random.nextInt(5); i++) {
        int begun = random.nextInt(40);
        int worked = begun + random.nextInt(30);
        works.add(work(begun, worked, worked + (random.nextBoolean() ? 0 : random.nextInt(30))));
      }
      Instant end = RehearsalClock.end(at(0), works);
      long counted = 0;
      for (int minute = 0; at(minute).isBefore(end); minute++) {
        Instant within = at(minute).plusSeconds(30);
        boolean atWork = works.stream()
            .anyMatch(w -> w.begun().isBefore(within) && w.worked().isAfter(within));
        boolean awaits = works.stream()
            .anyMatch(w -> w.worked().isBefore(within) && w.settled().isAfter(within));
        counted += atWork || !awaits ? 1 : 0;
      }
      assertThat(RehearsalClock.of(at(0), works).toMinutes()).isEqualTo(counted);
    }
  }
}
