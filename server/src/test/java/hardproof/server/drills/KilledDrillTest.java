package hardproof.server.drills;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.server.Killed;
import hardproof.server.WithEstate;
import hardproof.server.installation.Installation;
import hardproof.server.runs.Run;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

/**
 * A process that is killed at every step of a drill, for real: a second one carries the drill out and
 * halts without warning at the step named; the next start must find it and leave nothing behind.
 */
class KilledDrillTest extends WithEstate {
  /** Carries out the one run that waits, and halts when its step {@code args[1]} begins. */
  public static final class Victim {
    private Victim() {}

    /** The data folder, the step, the instant. */
    public static void main(String[] args) throws IOException {
      int step = Integer.parseInt(args[1]);
      Installation installation = Killed.open(args);
      installation.queue().onChange(id -> {
        Run run = installation.runs().find(id).orElseThrow();
        boolean begun = run.steps().size() > step && run.steps().get(step).startedAt() != null;
        if (begun) {
          Killed.halt();
        }
      });
      installation.queue().runOne();
    }
  }

  @Test
  void nothingIsLostAndNothingIsLeftWhereverItIsKilled() throws Exception {
    DrillWith drills = new DrillWith(estate);
    for (int step = 0; step < 4; step++) {
      String id = drills.queue("share", null, Method.FULL_RESTORE, Duration.ZERO, List.of(), null);
      assertThat(Killed.by(Victim.class, estate, step)).as("step " + step).isEqualTo(Killed.KILLED);
      assertThat(drills.find(id).ended()).isFalse();

      estate.installation.queue().recover();
      Run run = drills.find(id);
      assertThat(run.ended()).isTrue();
      assertThat(run.cleanup()).as("step " + step).isEqualTo(CleanupState.DONE);
      assertThat(run.restore()).isEqualTo(step < 2 ? RestoreState.INTERRUPTED : RestoreState.DONE);
      assertThat(run.checks())
          .as("what had passed before the last step stays passed")
          .isEqualTo(step < 3 ? ChecksState.NOT_ASKED : ChecksState.PASSED);
      assertThat(run.fact().failed()).as("a kill says nothing about the data").isFalse();
      assertThat(estate.installation.sandboxes().present()).isEmpty();
    }
  }
}
