package hardproof.server.programmes;

import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.DueStarts;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.server.drills.DrillOrders;
import hardproof.server.proof.Evaluated;
import hardproof.server.runs.RunStore;
import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;

/** Starts the drills that are due. Looked at every few seconds while the application runs. */
public final class Programmes {
  private final Database database;
  private final ProgrammeStore store;
  private final CapacityStore capacities;
  private final RunStore runs;
  private final DrawStore draws;
  private final RefusedStore refused;
  private final StartOrders startOrders;
  private final RehearsalStarts rehearsals;
  private final Supplier<Evaluated> evaluated;

  public Programmes(
      Database database,
      ProgrammeStore store,
      CapacityStore capacities,
      Outlook outlook,
      DrawStore draws,
      RefusedStore refused,
      RunStore runs,
      DrillOrders orders,
      Supplier<Evaluated> evaluated) {
    this.database = database;
    this.store = store;
    this.capacities = capacities;
    this.runs = runs;
    this.draws = draws;
    this.refused = refused;
    this.startOrders = new StartOrders(orders, outlook);
    this.rehearsals = new RehearsalStarts(outlook);
    this.evaluated = evaluated;
  }

  /**
   * Handles every start that came due by {@code now}: each is started or recorded as missed, once,
   * also across a crash.
   *
   * @return how many runs were put into the queue
   */
  public int startWhatIsDue(Instant now) {
    int queued = 0;
    Capacity capacity = capacities.at(now).capacity();
    for (Programme programme : store.all()) {
      ProgrammeTerms terms = programme.terms();
      for (DueStarts.Decision decision : DueStarts.decide(
          Outlook.starts(terms, capacity),
          programme.version().handledUntil(),
          now,
          StartOrders.Due.window(terms, capacity, now))) {
        queued += handle(new StartOrders.Due(programme, terms, capacity, decision, now));
      }
    }
    return queued;
  }

  /** Says who conducts the rehearsals of programmes. */
  public void rehearseBy(RehearsalStarter conducts) {
    rehearsals.by(conducts);
  }

  private int handle(StartOrders.Due due) {
    if (due.decision().start() && due.terms().showing().rehearses()) {
      return rehearse(due);
    }
    StartOrders.Start start =
        due.decision().start() ? startOrders.of(due, evaluated.get()) : StartOrders.Start.NONE;
    write(due, start);
    return start.ready().size();
  }

  /** The rehearsals and the note that they were started become durable together. */
  private int rehearse(StartOrders.Due due) {
    Programme programme = due.programme();
    RehearsalStarts.Start start = rehearsals.of(due, evaluated.get());
    return database.write(() -> {
      start.ready().forEach(RehearsalStarter.Prepared::queue);
      refused.keep(programme.key(), due.decision().due(), start.refused());
      store.handled(programme.key(), due.decision(), start.ready().size(), start.reason());
      return start.ready().size();
    });
  }

  /** The runs, what was drawn for them and the note that they were started become durable together. */
  private void write(StartOrders.Due due, StartOrders.Start start) {
    Programme programme = due.programme();
    database.write(() -> {
      List<String> ids = new ArrayList<>();
      for (StartOrders.Ready r : start.ready()) {
        ids.add(runs.queue(
            r.order(), r.reaches(), r.needs(), programme.key(), programme.name(), due.now()));
      }
      if (start.drawn() != null) {
        draws.keep(programme.key(), due.decision().due(), start.drawn(), ids);
      }
      if (due.decision().start()) {
        refused.keep(programme.key(), due.decision().due(), start.refused());
      }
      store.handled(
          programme.key(), due.decision(), start.ready().size(), start.reason(due.decision()));
      return null;
    });
  }
}
