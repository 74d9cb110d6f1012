package hardproof.server.rehearsals;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.CleanupState;
import hardproof.core.drills.RehearsalFact.Outcome;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.server.Killed;
import hardproof.server.WithEstate;
import hardproof.server.installation.Installation;
import hardproof.server.runs.Run;
import java.io.IOException;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/**
 * A process that is killed in the middle of a rehearsal, for real, at every sixth thing that it writes down: the next start
 * must end what was under way, say nothing of the data by it, and leave nothing behind.
 */
class KilledRehearsalTest extends WithEstate {
  private static final int EVERY = 6;

  /** More than two drills and what stands around them take. */
  private static final int TURNS = 20;

  /** Carries out the one rehearsal that waits, and halts at the change numbered {@code args[1]} of it or of its drills. */
  public static final class Victim {
    private Victim() {}

    /** The data folder, the change, the instant. */
    public static void main(String[] args) throws IOException {
      AtomicInteger left = new AtomicInteger(Integer.parseInt(args[1]));
      Installation installation = Killed.open(args);
      Rehearsals rehearsals = installation.part(Rehearsals.class);
      Runnable changed = () -> {
        if (left.decrementAndGet() == 0) {
          Killed.halt();
        }
      };
      installation.queue().onChange(run -> changed.run());
      rehearsals.onChange(rehearsal -> changed.run());
      RehearsalStore store = installation.part(RehearsalStore.class);
      for (int turn = 0; turn < TURNS && !store.underWay().isEmpty(); turn++) {
        rehearsals.advance();
        installation.queue().runOne();
      }
      installation.close();
    }
  }

  @BeforeEach
  void shareNeedsDatabase() throws IOException {
    estate.take("resources.csv", """
        key,name,kind,workload,site,environment,first_seen,needs
        share,SHARE,file-share,w,A,production,2026-10-01T00:00:00Z,db
        db,DB,database,w,A,production,2026-10-01T00:00:00Z,
        """);
    estate
        .installation
        .checks()
        .keep(
            "db", List.of(new Check(CheckType.QUERY_AT_LEAST, "SELECT count(*) FROM entry", "1")));
  }

  @Test
  void nothingIsClaimedAndNothingIsLeftWhereverItIsKilled() throws Exception {
    RehearseWith rehearse = new RehearseWith(estate);
    int kills = 0;
    boolean through = false;
    for (int change = 1; !through; change += EVERY) {
      String id = rehearse.queue("w");
      through = Killed.by(Victim.class, estate, change) == 0;
      kills += through ? 0 : 1;

      estate.installation.queue().recover();
      rehearse.rehearsals().recover();
      while (estate.installation.queue().runOne()) {
        // What waited for its turn is taken out of the queue.
      }
      estate.installation.queue().cleanUp();
      Rehearsal rehearsal = rehearse.find(id);
      assertThat(rehearsal.ended()).as("change " + change).isTrue();
      assertThat(rehearsal.result().outcome())
          .as("killed at change " + change + ": " + rehearsal.result().sentence())
          .isIn(through ? List.of(Outcome.PASSED) : List.of(Outcome.INTERRUPTED, Outcome.PASSED));
      for (Rehearsal.Member member : rehearsal.members()) {
        if (member.run() != null) {
          Run run = estate.installation.runs().find(member.run()).orElseThrow();
          assertThat(run.ended()).as(member.resource() + " at change " + change).isTrue();
          assertThat(run.fact().failed())
              .as("a kill says nothing about the data")
              .isFalse();
          assertThat(run.cleanup()).isNotEqualTo(CleanupState.HOLDING);
        }
      }
      assertThat(estate.installation.sandboxes().present())
          .as("change " + change)
          .isEmpty();
    }
    assertThat(kills).as("it was killed on its way").isGreaterThan(3);
  }
}
