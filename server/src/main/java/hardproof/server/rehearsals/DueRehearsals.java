package hardproof.server.rehearsals;

import hardproof.core.estate.Workload;
import hardproof.core.losses.Loss;
import hardproof.core.programmes.Capacity;
import hardproof.server.programmes.RehearsalStarter;
import hardproof.server.proof.Evaluated;
import hardproof.server.web.Refused;
import java.time.Duration;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** Rehearsals that programmes ask for: of the newest points, from whatever copy is quickest. */
public final class DueRehearsals implements RehearsalStarter {
  private static final Duration STAY = Duration.ofMinutes(1);

  private final Rehearsals rehearsals;
  private final Supplier<Capacity> capacity;

  public DueRehearsals(Rehearsals rehearsals, Supplier<Capacity> capacity) {
    this.rehearsals = rehearsals;
    this.capacity = capacity;
  }

  @Override
  public Prepared prepare(Evaluated before, Workload workload, Asked asked) {
    int atOnce = asked.atOnce() == null ? Math.max(1, capacity.get().atOnce()) : asked.atOnce();
    RehearsalOrders.Wanted wanted = new RehearsalOrders.Wanted(
        before.estate().asAt(), Loss.NONE, atOnce, STAY, asked.hold(), asked.reason());
    RehearsalOrders.Ready ready =
        rehearsals.plan(before.estate(), before.evaluation().standard(), workload, wanted);
    return new Prepared() {
      @Override
      public @Nullable String refusal() {
        return ready.refusal() == null && rehearsals.underWay(workload.key())
            ? "a rehearsal of it waits or goes on already"
            : ready.refusal();
      }

      @Override
      public void queue() {
        try {
          rehearsals.order(ready, wanted, null, asked.name(), asked.programme(), asked.notAfter());
        } catch (Refused e) {
          // Somebody else was faster: it is rehearsed all the same.
        }
      }
    };
  }
}
