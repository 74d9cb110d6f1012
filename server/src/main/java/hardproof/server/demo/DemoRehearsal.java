package hardproof.server.demo;

import hardproof.core.losses.Loss;
import hardproof.server.installation.Installation;
import hardproof.server.proof.Evaluated;
import hardproof.server.rehearsals.RehearsalOrders;
import hardproof.server.rehearsals.RehearsalStore;
import hardproof.server.rehearsals.Rehearsals;
import hardproof.server.runs.Run;
import hardproof.standins.estate.DemoEstate;
import java.time.Duration;
import java.util.HashSet;
import java.util.Set;

/**
 * A rehearsal of the demo's past, by the code that conducts them. While a member comes back the clock goes on by as
 * long as that took in the days of its slow stores.
 */
final class DemoRehearsal {
  private final Installation installation;
  private final SettableClock clock;
  private final Set<String> begun = new HashSet<>();

  DemoRehearsal(Installation installation, SettableClock clock) {
    this.installation = installation;
    this.clock = clock;
  }

  void carryOut(DemoEstate.PastRehearsal past) {
    clock.set(past.at());
    Evaluated now = installation.evaluations().now();
    RehearsalOrders.Wanted wanted = new RehearsalOrders.Wanted(
        past.at(), Loss.NONE, 2, Duration.ZERO, Duration.ZERO, past.reason());
    Rehearsals rehearsals = installation.part(Rehearsals.class);
    RehearsalOrders.Ready ready = rehearsals.plan(
        now.estate(), now.evaluation().standard(), now.estate().workload(past.workload()), wanted);
    installation.queue().onChange(run -> letTimePass(run, past));
    String id = rehearsals.order(ready, wanted, null, past.by(), null, null);
    boolean worked = true;
    while (worked) {
      rehearsals.advance();
      worked = !installation.part(RehearsalStore.class).find(id).orElseThrow().ended()
          && installation.queue().runOne();
    }
  }

  private void letTimePass(String run, DemoEstate.PastRehearsal past) {
    Run member = installation.runs().find(run).orElseThrow();
    Duration took = past.took().get(member.resource());
    if (took != null && member.startedAt() != null && !member.ended() && begun.add(run)) {
      clock.set(member.startedAt().plus(took));
    }
  }
}
