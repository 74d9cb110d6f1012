package hardproof.server.rehearsals;

import hardproof.core.losses.Loss;
import hardproof.server.Estate;
import hardproof.server.proof.Evaluated;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Rehearsals of the test estate, queued and carried out as by a worker. */
public final class RehearseWith {
  private final Estate estate;
  private Duration stay = Duration.ZERO;
  private Duration hold = Duration.ZERO;

  public RehearseWith(Estate estate) {
    this.estate = estate;
  }

  public RehearseWith staying(Duration other) {
    stay = other;
    return this;
  }

  public RehearseWith holding(Duration other) {
    hold = other;
    return this;
  }

  public Rehearsals rehearsals() {
    return estate.installation.part(Rehearsals.class);
  }

  public RehearsalOrders.Ready plan(
      String workload, @Nullable Instant moment, Loss loss, int atOnce) {
    Evaluated now = estate.installation.evaluations().now();
    return rehearsals()
        .plan(
            now.estate(),
            now.evaluation().standard(),
            now.estate().workload(workload),
            wanted(moment, loss, atOnce));
  }

  private RehearsalOrders.Wanted wanted(@Nullable Instant moment, Loss loss, int atOnce) {
    return new RehearsalOrders.Wanted(
        moment == null ? estate.clock.instant() : moment, loss, atOnce, stay, hold, "a test");
  }

  /** Puts one of the newest points into the queue. */
  public String queue(String workload) {
    return queue(workload, Loss.NONE);
  }

  public String queue(String workload, Loss loss) {
    return rehearsals()
        .order(
            plan(workload, null, loss, 2),
            wanted(null, loss, 2),
            loss.equals(Loss.NONE) ? null : loss.words(),
            "tester",
            null,
            null);
  }

  /** Carries out all that there is to do. */
  public Rehearsal finish(String id) {
    boolean worked = true;
    while (worked && !find(id).ended()) {
      rehearsals().advance();
      worked = estate.installation.queue().runOne();
    }
    return find(id);
  }

  public Rehearsal find(String id) {
    return estate.installation.part(RehearsalStore.class).find(id).orElseThrow();
  }
}
