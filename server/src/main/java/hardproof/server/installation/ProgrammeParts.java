package hardproof.server.installation;

import hardproof.server.drills.DrillOrders;
import hardproof.server.feeds.FeedStore;
import hardproof.server.plan.PlanDesk;
import hardproof.server.programmes.CapacityStore;
import hardproof.server.programmes.DrawStore;
import hardproof.server.programmes.Foretelling;
import hardproof.server.programmes.ForetoldStore;
import hardproof.server.programmes.Outlook;
import hardproof.server.programmes.ProgrammeStore;
import hardproof.server.programmes.Programmes;
import hardproof.server.programmes.RefusedStore;
import hardproof.server.programmes.Renewing;
import hardproof.server.proof.Evaluations;
import hardproof.server.runs.RunStore;
import hardproof.server.runs.WaitingStore;
import hardproof.server.storage.Database;
import java.util.function.Consumer;

/** What starts drills by itself, what looks ahead, and what says what to do first. */
final class ProgrammeParts {
  private final Consumer<Object> parts;
  private final Outlook outlook;
  private final Programmes programmes;
  private final PlanDesk plans;

  /**
   * @param parts told of each
   */
  ProgrammeParts(
      Database database,
      RunStore runs,
      WaitingStore waiting,
      DrillOrders orders,
      FeedStore feeds,
      Evaluations evaluations,
      Consumer<Object> parts) {
    this.parts = parts;
    ProgrammeStore store = part(new ProgrammeStore(database));
    DrawStore draws = part(new DrawStore(database));
    CapacityStore capacities = part(new CapacityStore(database));
    RefusedStore refused = part(new RefusedStore(database));
    this.outlook = part(new Outlook(store, capacities, refused, orders));
    this.programmes = part(new Programmes(
        database, store, capacities, outlook, draws, refused, runs, orders, evaluations::now));
    ForetoldStore foretold = part(new ForetoldStore(database));
    part(new Foretelling(foretold, store, capacities, outlook, evaluations::now));
    Renewing renewing = part(new Renewing(store, capacities, outlook));
    this.plans = part(new PlanDesk(database, feeds, renewing, waiting, capacities));
  }

  private <T> T part(T part) {
    parts.accept(part);
    return part;
  }

  Outlook outlook() {
    return outlook;
  }

  Programmes programmes() {
    return programmes;
  }

  PlanDesk plans() {
    return plans;
  }
}
