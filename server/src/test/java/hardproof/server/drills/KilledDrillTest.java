package hardproof.server.drills;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.server.HandClock;
import hardproof.server.WithEstate;
import hardproof.server.installation.Installation;
import hardproof.server.runs.Run;
import hardproof.server.storage.DataFolder;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

/**
 * A process that is killed at every step of a drill, for real: a second one carries the drill out and
 * halts without warning at the step named; the next start must find it and leave nothing behind.
 */
class KilledDrillTest extends WithEstate {
  private static final int KILLED = 137;

  /** Carries out the one run that waits, and halts when its step {@code args[1]} begins. */
  public static final class Victim {
    private Victim() {}

    /** The data folder, the step, the instant. */
    public static void main(String[] args) throws IOException {
      int step = Integer.parseInt(args[1]);
      HandClock clock = new HandClock(Instant.parse(args[2]));
      Installation installation = Installation.open(
          new DataFolder(Path.of(args[0])), clock, List.of(Path.of(args[0]).getParent()));
      installation.queue().onChange(id -> {
        Run run = installation.runs().find(id).orElseThrow();
        boolean begun = run.steps().size() > step && run.steps().get(step).startedAt() != null;
        if (begun) {
          Runtime.getRuntime().halt(KILLED);
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
      Process victim = new ProcessBuilder(
              Path.of(System.getProperty("java.home"), "bin", "java").toString(),
              "-cp",
              System.getProperty("java.class.path"),
              Victim.class.getName(),
              estate.installation.folder().root().toString(),
              Integer.toString(step),
              estate.clock.instant().toString())
          .redirectErrorStream(true)
          .start();
      String said = new String(victim.getInputStream().readAllBytes());
      assertThat(victim.waitFor(2, TimeUnit.MINUTES)).isTrue();
      assertThat(victim.exitValue()).as("killed at step " + step + ": " + said).isEqualTo(KILLED);
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
