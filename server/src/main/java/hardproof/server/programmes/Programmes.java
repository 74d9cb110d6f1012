package hardproof.server.programmes;

import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.ladder.Rung;
import hardproof.core.programmes.Draw;
import hardproof.core.programmes.DueStarts;
import hardproof.core.programmes.Pick;
import hardproof.core.programmes.PointChoice;
import hardproof.core.wording.Wording;
import hardproof.server.drills.DrillOrders;
import hardproof.server.drills.PickedOrders;
import hardproof.server.proof.Evaluated;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.schedule.RfcRecurrence;
import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** Starts the drills that are due. Looked at every few seconds while the application runs. */
public final class Programmes {
  private final Database database;
  private final ProgrammeStore store;
  private final RunStore runs;
  private final DrawStore draws;
  private final DrillOrders orders;
  private final PickedOrders picked;
  private final Supplier<Evaluated> evaluated;

  public Programmes(
      Database database,
      ProgrammeStore store,
      DrawStore draws,
      RunStore runs,
      DrillOrders orders,
      Supplier<Evaluated> evaluated) {
    this.database = database;
    this.store = store;
    this.runs = runs;
    this.draws = draws;
    this.orders = orders;
    this.picked = new PickedOrders(orders);
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

  /** What is drawn from, and what was known before it. */
  private record Drawn(String known, Draw draw) {}

  private int handle(Programme programme, DueStarts.Decision decision, Instant now) {
    List<Due> due = new ArrayList<>();
    List<String> skipped = new ArrayList<>();
    Drawn drawn = null;
    if (decision.start()) {
      Evaluated before = evaluated.get();
      Map<Resource, Pick> picks = picks(programme, before.estate());
      drawn = drawn(programme, decision, before, picks);
      String reason = "due " + Wording.time(decision.due(), now);
      for (Resource resource : picks.keySet()) {
        try {
          RunOrder order = order(programme, before.estate(), resource, picks, drawn, reason);
          due.add(new Due(order, orders.plan(before.estate(), order).reaches()));
        } catch (DrillOrders.OrderRefused e) {
          skipped.add(e.getMessage());
        }
      }
    }
    String reason = skipped.isEmpty()
        ? decision.reason()
        : Wording.count(skipped.size(), "resource", "resources") + " could not be drilled: "
            + String.join(" ", skipped);
    write(programme, decision, now, due, drawn, reason);
    return due.size();
  }

  /** The runs, what was drawn for them and the note that they were started become durable together. */
  private void write(
      Programme programme,
      DueStarts.Decision decision,
      Instant now,
      List<Due> due,
      @Nullable Drawn drawn,
      String reason) {
    database.write(() -> {
      List<String> ids = new ArrayList<>();
      for (Due d : due) {
        ids.add(runs.queue(d.order(), d.reaches(), programme.key(), programme.name(), now));
      }
      if (drawn != null) {
        draws.keep(programme.key(), decision.due(), drawn.known(), drawn.draw(), ids);
      }
      store.handled(programme.key(), decision, due.size(), reason);
      return null;
    });
  }

  private static Map<Resource, Pick> picks(Programme programme, Estate facts) {
    Map<Resource, Pick> picks = new LinkedHashMap<>();
    members(programme, facts).forEach(r -> picks.put(r, new Pick(facts, r)));
    return picks;
  }

  /** Null where nothing is drawn. */
  private static @Nullable Drawn drawn(
      Programme programme,
      DueStarts.Decision decision,
      Evaluated before,
      Map<Resource, Pick> picks) {
    if (programme.point().way() != PointChoice.Way.RANDOM) {
      return null;
    }
    String known = Draw.known(before.evaluation());
    String seed = Draw.seed(programme.key(), decision.due(), known);
    List<Draw.Candidate> candidates = picks.values().stream()
        .flatMap(p -> p.candidates(programme.point()).stream())
        .toList();
    return new Drawn(known, Draw.of(seed, candidates));
  }

  private RunOrder order(
      Programme programme,
      Estate facts,
      Resource resource,
      Map<Resource, Pick> picks,
      @Nullable Drawn drawn,
      String reason) {
    Method method = programme.method() != null && programme.method().suits(resource.kind())
        ? programme.method()
        : null;
    return picked.of(
        facts,
        resource,
        picks.get(resource),
        new PickedOrders.Choice(programme.point(), programme.copy()),
        drawn == null ? null : drawn.draw(),
        method,
        reason);
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
