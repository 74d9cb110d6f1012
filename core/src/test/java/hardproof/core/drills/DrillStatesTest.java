package hardproof.core.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.drills.DueStarts.Decision;
import hardproof.core.estate.Kind;
import hardproof.core.schedule.Recurrence;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class DrillStatesTest {
  private static final Instant MIDNIGHT = Instant.parse("2026-11-24T00:00:00Z");
  private static final Recurrence HOURLY = i -> Optional.of(
      i.plusSeconds(3600 - Math.floorMod(i.getEpochSecond(), 3600)).minusNanos(i.getNano()));

  @Test
  void everyTransitionOutsideTheTableIsRefused() {
    int allowed = 0;
    for (RestoreState from : RestoreState.values()) {
      for (RestoreState to : RestoreState.values()) {
        try {
          Transitions.check(from, to);
          allowed += from == to ? 0 : 1;
        } catch (Transitions.ImpossibleTransition e) {
          assertThat(e).hasMessage("the restore of a run can't go from " + from + " to " + to);
          assertThat(e.from()).isEqualTo(from.name());
          assertThat(e.to()).isEqualTo(to.name());
        }
      }
    }
    assertThat(allowed).isEqualTo(7);
  }

  @Test
  void whatHasEndedStaysEnded() {
    assertThatThrownBy(() -> Transitions.check(RestoreState.FAILED, RestoreState.DONE))
        .isInstanceOf(Transitions.ImpossibleTransition.class);
    assertThatThrownBy(() -> Transitions.check(ChecksState.FAILED, ChecksState.PASSED))
        .isInstanceOf(Transitions.ImpossibleTransition.class);
    assertThatThrownBy(() -> Transitions.check(CleanupState.DONE, CleanupState.HOLDING))
        .isInstanceOf(Transitions.ImpossibleTransition.class);
    assertThat(Transitions.check(CleanupState.FAILED, CleanupState.DONE))
        .isEqualTo(CleanupState.DONE);
  }

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

  @Test
  void proofNeedsBothAnswers() {
    assertThat(fact(RestoreState.DONE, ChecksState.PASSED).passed()).isTrue();
    assertThat(fact(RestoreState.DONE, ChecksState.NOT_ASKED).passed()).isFalse();
    assertThat(fact(RestoreState.DONE, ChecksState.TIMED_OUT).failed()).isTrue();
    assertThat(fact(RestoreState.INTERRUPTED, ChecksState.NOT_ASKED).failed()).isFalse();
    assertThat(fact(RestoreState.REFUSED, ChecksState.NOT_ASKED).failed()).isFalse();
    assertThat(fact(RestoreState.FAILED, ChecksState.NOT_ASKED).rung()).isNull();
  }

  private static DrillFact fact(RestoreState restore, ChecksState checks) {
    return new DrillFact(
        "1",
        new DrillFact.Of("r", "p", "s"),
        Method.DATABASE,
        hardproof.core.ladder.Rung.RUNNING,
        new DrillFact.Answers(restore, checks, CleanupState.DONE),
        new DrillFact.Times(MIDNIGHT, MIDNIGHT, MIDNIGHT),
        0,
        new DrillFact.Blame(null, null),
        "x");
  }

  @Test
  void everyKindHasTheMethodThatStartsIt() {
    assertThat(Method.suiting(Kind.FILE_SHARE))
        .containsExactly(
            Method.PRESENCE, Method.READ_THROUGH, Method.SAMPLE_RESTORE, Method.FULL_RESTORE);
    assertThat(Method.strongestFor(Kind.DATABASE)).isEqualTo(Method.DATABASE);
    assertThat(Method.strongestFor(Kind.DIRECTORY)).isEqualTo(Method.DIRECTORY);
    assertThat(Method.strongestFor(Kind.CONTAINER_APPLICATION))
        .isEqualTo(Method.CONTAINER_APPLICATION);
    assertThat(Method.strongestFor(Kind.PHYSICAL_SERVER)).isEqualTo(Method.BOOT);
    for (Kind kind : Kind.values()) {
      assertThat(Method.strongestFor(kind).rung().atLeast(kind.highestRung()))
          .as(kind.words())
          .isTrue();
      assertThat(Method.suiting(kind)).doesNotContain(Method.READ_BACK);
    }
  }
}
