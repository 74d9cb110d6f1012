package hardproof.server.programmes;

import hardproof.core.drills.DueStarts;
import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import hardproof.server.drills.DrillOrders;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.schedule.RfcRecurrence;
import hardproof.server.storage.Database;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;

/** Starts the drills that are due. Looked at every few seconds while the application runs. */
public final class Programmes {
  private final Database database;
  private final ProgrammeStore store;
  private final RunStore runs;
  private final DrillOrders orders;
  private final Supplier<Estate> estate;

  public Programmes(
      Database database,
      ProgrammeStore store,
      RunStore runs,
      DrillOrders orders,
      Supplier<Estate> estate) {
    this.database = database;
    this.store = store;
    this.runs = runs;
    this.orders = orders;
    this.estate = estate;
  }

  /**
   * Handles every start that came due by {@code now}: each is started or recorded as missed, once,
   * also across a crash.
   *
   * @return how many runs were put into the queue
   */
  public int startWhatIsDue(Instant now) {
    int queued = 0;
    for (Programme programme : store.all()) {
      for (DueStarts.Decision decision : DueStarts.decide(
          programme.recurrence(), programme.handledUntil(), now, programme.startWindow())) {
        queued += handle(programme, decision, now);
      }
    }
    return queued;
  }

  /** An order with the rung that a pass of it would show. */
  private record Due(RunOrder order, Rung reaches) {}

  private int handle(Programme programme, DueStarts.Decision decision, Instant now) {
    List<Due> due = new ArrayList<>();
    List<String> skipped = new ArrayList<>();
    Estate facts = estate.get();
    if (decision.start()) {
      for (Resource resource : members(programme, facts)) {
        try {
          RunOrder order =
              order(programme, resource, facts, "due " + Wording.time(decision.due(), now));
          due.add(new Due(order, orders.plan(facts, order).reaches()));
        } catch (DrillOrders.OrderRefused e) {
          skipped.add(e.getMessage());
        }
      }
    }
    String reason = skipped.isEmpty()
        ? decision.reason()
        : Wording.count(skipped.size(), "resource", "resources") + " could not be drilled: "
            + String.join(" ", skipped);
    // The runs and the note that they were started become durable together.
    database.write(() -> {
      for (Due d : due) {
        runs.queue(d.order(), d.reaches(), programme.key(), programme.name(), now);
      }
      store.handled(programme.key(), decision, due.size(), reason);
      return null;
    });
    return due.size();
  }

  private RunOrder order(Programme programme, Resource resource, Estate facts, String reason) {
    Method method = programme.method() != null && programme.method().suits(resource.kind())
        ? programme.method()
        : null;
    return orders.complete(
        facts, new RunOrder(resource.key(), null, null, method, null, reason, Duration.ZERO));
  }

  /** The resources a programme drills now. */
  public static List<Resource> members(Programme programme, Estate facts) {
    return facts.facts().resources().stream()
        .filter(r -> programme.scope().matches(r, facts.tierOf(r)))
        .filter(r -> !facts.pointsOf(r.key()).isEmpty())
        .toList();
  }

  /** A start that is to come. */
  public record Ahead(Programme programme, Instant due) {}

  /** The starts due in (now, until], soonest first, at most {@code atMost} a programme. */
  public List<Ahead> ahead(Instant now, Instant until, int atMost) {
    List<Ahead> ahead = new ArrayList<>();
    for (Programme programme : store.all()) {
      RfcRecurrence recurrence = programme.recurrence();
      Instant at = now;
      for (int i = 0; i < atMost; i++) {
        var next = recurrence.nextAfter(at);
        if (next.isEmpty() || next.get().isAfter(until)) {
          break;
        }
        at = next.get();
        ahead.add(new Ahead(programme, at));
      }
    }
    ahead.sort(java.util.Comparator.comparing(Ahead::due));
    return ahead;
  }
}
