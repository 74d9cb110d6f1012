package hardproof.core.programmes;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.programmes.DueStarts.Decision;
import hardproof.core.schedule.Recurrence;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class DueStartsTest {
  private static final Instant MIDNIGHT = Instant.parse("2026-11-24T00:00:00Z");
  private static final Recurrence HOURLY = i -> Optional.of(
      i.plusSeconds(3600 - Math.floorMod(i.getEpochSecond(), 3600)).minusNanos(i.getNano()));

  @Test
  void aStartIsDueAtItsInstantAndOnlyOnce() {
    Instant before = MIDNIGHT.minusSeconds(10);
    assertThat(DueStarts.decide(HOURLY, before, MIDNIGHT.minusMillis(1), Duration.ofHours(1)))
        .isEmpty();
    assertThat(DueStarts.decide(HOURLY, before, MIDNIGHT, Duration.ofHours(1)))
        .containsExactly(new Decision(MIDNIGHT, true, ""));
    assertThat(DueStarts.decide(HOURLY, MIDNIGHT, MIDNIGHT.plusSeconds(5), Duration.ofHours(1)))
        .isEmpty();
  }

  @Test
  void aMissedStartIsCaughtUpInsideItsWindowElseRecorded() {
    Instant before = MIDNIGHT.minusSeconds(10);
    Duration window = Duration.ofMinutes(30);
    assertThat(DueStarts.decide(HOURLY, before, MIDNIGHT.plus(window), window))
        .containsExactly(new Decision(MIDNIGHT, true, "caught up inside its start window"));
    assertThat(DueStarts.decide(HOURLY, before, MIDNIGHT.plus(window).plusMillis(1), window))
        .containsExactly(
            new Decision(MIDNIGHT, false, "the application was not running in its start window"));
  }

  @Test
  void ofSeveralOnlyTheNewestStarts() {
    List<Decision> decisions = DueStarts.decide(
        HOURLY,
        MIDNIGHT.minusSeconds(1),
        MIDNIGHT.plus(Duration.ofMinutes(130)),
        Duration.ofMinutes(90));
    assertThat(decisions).extracting(Decision::start).containsExactly(false, false, true);
    assertThat(decisions)
        .extracting(Decision::reason)
        .containsExactly(
            "the application was not running in its start window",
            "a later start was due before it could begin",
            "caught up inside its start window");
  }

  @Test
  void aLongGapIsListedUpToALimit() {
    assertThat(DueStarts.decide(
            HOURLY, MIDNIGHT.minus(Duration.ofDays(365)), MIDNIGHT, Duration.ofHours(1)))
        .hasSize(DueStarts.LISTED_AT_MOST);
  }

  @Test
  void theClockSetBackStartsNothingTwice() {
    assertThat(DueStarts.decide(HOURLY, MIDNIGHT, MIDNIGHT.minusSeconds(3600), Duration.ofHours(2)))
        .isEmpty();
  }
}
