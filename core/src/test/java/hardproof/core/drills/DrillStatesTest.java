package hardproof.core.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.estate.Kind;
import java.time.Instant;
import org.junit.jupiter.api.Test;

class DrillStatesTest {
  private static final Instant MIDNIGHT = Instant.parse("2026-11-24T00:00:00Z");

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
