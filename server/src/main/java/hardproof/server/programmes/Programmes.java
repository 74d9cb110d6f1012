package hardproof.server.programmes;

import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.forecast.Forecaster;
import hardproof.core.forecast.Renewals;
import hardproof.core.ladder.Rung;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.Draw;
import hardproof.core.programmes.DueStarts;
import hardproof.core.programmes.Members;
import hardproof.core.programmes.Pick;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.proof.ResourceResult;
import hardproof.core.recovery.TimeEstimate;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.wording.Wording;
import hardproof.proving.drills.DrillPlan;
import hardproof.server.drills.DrillOrders;
import hardproof.server.drills.PickedOrders;
import hardproof.server.proof.Evaluated;
import hardproof.server.runs.RunNeeds;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.storage.Database;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** Starts the drills that are due. Looked at every few seconds while the application runs. */
public final class Programmes {
  private final Database database;
  private final ProgrammeStore store;
  private final CapacityStore capacities;
  private final RunStore runs;
  private final DrawStore draws;
  private final DrillOrders orders;
  private final PickedOrders picked;
  private final Outlook outlook;
  private final Supplier<Evaluated> evaluated;

  public Programmes(
      Database database,
      ProgrammeStore store,
      CapacityStore capacities,
      Outlook outlook,
      DrawStore draws,
      RunStore runs,
      DrillOrders orders,
      Supplier<Evaluated> evaluated) {
    this.database = database;
    this.store = store;
    this.capacities = capacities;
    this.outlook = outlook;
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
    Capacity capacity = capacities.at(now).capacity();
    for (Programme programme : store.all()) {
      ProgrammeTerms terms = programme.terms();
      for (DueStarts.Decision decision : DueStarts.decide(
          Outlook.starts(terms, capacity),
          programme.version().handledUntil(),
          now,
          window(terms, capacity, now))) {
        queued += handle(new Due(programme, terms, capacity, decision, now));
      }
    }
    return queued;
  }

  /** How late a start may be; one as needed may be so until its night is over. */
  private static Duration window(ProgrammeTerms terms, Capacity capacity, Instant now) {
    return terms.asNeeded()
        ? Renewals.night(capacity, terms, now).length()
        : terms.timing().startWindow();
  }

  /** A start that is handled. */
  private record Due(
      Programme programme,
      ProgrammeTerms terms,
      Capacity capacity,
      DueStarts.Decision decision,
      Instant now) {
    Instant notAfter() {
      return decision.due().plus(window(terms, capacity, decision.due()));
    }
  }

  /** An order with the rung that a pass of it would show, and what it will take. */
  private record Ready(RunOrder order, Rung reaches, RunNeeds needs) {}

  /** What is drawn from, and what was known before it. */
  private record Drawn(String known, Draw draw) {}

  private int handle(Due due) {
    List<Ready> ready = new ArrayList<>();
    List<String> skipped = new ArrayList<>();
    Drawn drawn = null;
    String left = "";
    if (due.decision().start()) {
      Evaluated before = evaluated.get();
      Chosen chosen = chosen(due, before);
      left = chosen.left();
      skipped.addAll(chosen.refused());
      Map<Resource, Pick> picks = picks(before.estate(), chosen.neededBy().keySet());
      drawn = drawn(due, before, picks);
      TimeEstimates estimates = new TimeEstimates(before.estate());
      for (Resource resource : picks.keySet()) {
        try {
          RunOrder order = order(due, before, resource, picks, drawn);
          ready.add(ready(due, before, order, estimates, chosen.neededBy().get(resource)));
        } catch (DrillOrders.OrderRefused e) {
          skipped.add(e.getMessage());
        }
      }
    }
    write(due, ready, drawn, reason(due, skipped, left));
    return ready.size();
  }

  private static String reason(Due due, List<String> skipped, String left) {
    String all = skipped.isEmpty()
        ? due.decision().reason()
        : Wording.count(skipped.size(), "resource", "resources") + " could not be drilled: "
            + String.join(" ", skipped);
    return left.isEmpty() ? all : all.isEmpty() ? left : left + "; " + all;
  }

  /**
   * What a start drills.
   *
   * @param neededBy the resources with the instant at which the proof of each lapses, or null
   * @param left what else is due and has no room, for people; empty when nothing is
   * @param refused why others can't be drilled
   */
  private record Chosen(
      Map<Resource, @Nullable Instant> neededBy, String left, List<String> refused) {}

  private Chosen chosen(Due due, Evaluated before) {
    Map<Resource, @Nullable Instant> neededBy = new LinkedHashMap<>();
    if (!due.terms().asNeeded()) {
      Members.of(due.terms(), before.estate(), before.evaluation())
          .forEach(r -> neededBy.put(r, lapses(before, r)));
      return new Chosen(
          neededBy,
          neededBy.isEmpty() ? "nothing matches it that has a recovery point" : "",
          List.of());
    }
    Map<String, String> refused = new LinkedHashMap<>();
    Renewals.Tonight tonight = tonight(due, before, refused);
    tonight.chosen().forEach(c -> neededBy.put(c.resource(), c.neededBy()));
    int left = tonight.leftOut().size();
    return new Chosen(
        neededBy,
        left > 0
            ? Wording.count(left, "more is", "more are") + " due, and the night has no room"
            : neededBy.isEmpty() && refused.isEmpty() ? "nothing was needed" : "",
        List.copyOf(refused.values()));
  }

  /** What can't be drilled takes no room from what can: it is left out, and the next comes in its place. */
  private Renewals.Tonight tonight(Due due, Evaluated before, Map<String, String> refused) {
    Forecaster ahead = new Forecaster(
        before.estate(),
        before.evaluation(),
        List.of(due.terms()),
        outlook.readable(before.estate()));
    while (true) {
      Renewals.Tonight tonight =
          ahead.tonight(due.terms(), due.capacity(), due.now(), refused.keySet());
      int known = refused.size();
      for (Renewals.Chosen chosen : tonight.chosen()) {
        String refusal = refusal(due, before, chosen.resource());
        if (refusal != null) {
          refused.put(chosen.resource().key(), refusal);
        }
      }
      if (refused.size() == known) {
        return tonight;
      }
    }
  }

  /** Why a resource can't be drilled; null when it can. */
  private @Nullable String refusal(Due due, Evaluated before, Resource resource) {
    try {
      Map<Resource, Pick> pick = picks(before.estate(), List.of(resource));
      RunOrder order = order(due, before, resource, pick, drawn(due, before, pick));
      String refusal = orders.plan(before.estate(), order).refusal();
      return refusal == null ? null : resource.name() + ": " + refusal;
    } catch (DrillOrders.OrderRefused e) {
      return e.getMessage();
    }
  }

  /** When the proof of a resource lapses; null where there is none to lapse. */
  private static @Nullable Instant lapses(Evaluated before, Resource resource) {
    ResourceResult result = before.evaluation().resource(resource.key());
    return result == null || !result.proof().demandReachedInPeriod()
        ? null
        : result.proof().lapses();
  }

  private Ready ready(
      Due due,
      Evaluated before,
      RunOrder order,
      TimeEstimates estimates,
      @Nullable Instant neededBy) {
    DrillPlan plan = orders.plan(before.estate(), order);
    Resource resource = Objects.requireNonNull(before.estate().resource(order.resource()));
    Duration takes = estimates
        .of(resource, order.store(), order.method(), plan.readBytes())
        .map(TimeEstimate::p95)
        .orElse(null);
    long restored = order.method().needsSandbox() ? plan.spaceBytes() : 0;
    return new Ready(
        order,
        plan.reaches(),
        new RunNeeds(
            neededBy,
            due.notAfter(),
            takes,
            plan.readBytes(),
            restored,
            due.capacity().prices().of(restored, order.hold()),
            1));
  }

  /** The runs, what was drawn for them and the note that they were started become durable together. */
  private void write(Due due, List<Ready> ready, @Nullable Drawn drawn, String reason) {
    Programme programme = due.programme();
    database.write(() -> {
      List<String> ids = new ArrayList<>();
      for (Ready r : ready) {
        ids.add(runs.queue(
            r.order(), r.reaches(), r.needs(), programme.key(), programme.name(), due.now()));
      }
      if (drawn != null) {
        draws.keep(programme.key(), due.decision().due(), drawn.known(), drawn.draw(), ids);
      }
      store.handled(programme.key(), due.decision(), ready.size(), reason);
      return null;
    });
  }

  private static Map<Resource, Pick> picks(Estate facts, Iterable<Resource> resources) {
    Map<Resource, Pick> picks = new LinkedHashMap<>();
    resources.forEach(r -> picks.put(r, new Pick(facts, r)));
    return picks;
  }

  /** Null where nothing is drawn. */
  private static @Nullable Drawn drawn(Due due, Evaluated before, Map<Resource, Pick> picks) {
    if (due.programme().how().point().way() != PointChoice.Way.RANDOM) {
      return null;
    }
    String known = Draw.known(before.evaluation());
    String seed = Draw.seed(due.programme().key(), due.decision().due(), known);
    List<Draw.Candidate> candidates = picks.values().stream()
        .flatMap(p -> p.candidates(due.programme().how().point()).stream())
        .toList();
    return new Drawn(known, Draw.of(seed, candidates));
  }

  private RunOrder order(
      Due due,
      Evaluated before,
      Resource resource,
      Map<Resource, Pick> picks,
      @Nullable Drawn drawn) {
    Programme.How how = due.programme().how();
    ResourceResult result = before.evaluation().resource(resource.key());
    Rung demanded = result == null ? Rung.RESTORED : result.proof().demanded();
    RunOrder order = picked.of(
        before.estate(),
        resource,
        picks.get(resource),
        new PickedOrders.Choice(
            how.point(), how.copy(), how.checks() == null ? List.of() : how.checks(), how.hold()),
        drawn == null ? null : drawn.draw(),
        how.showing().of(resource.kind(), demanded),
        "due " + Wording.time(due.decision().due(), due.now()));
    return paced(order, due.terms().limits().storeShare(), before.estate());
  }

  /** It asks its store for no more than its share of what that is said to read. */
  private static RunOrder paced(RunOrder order, @Nullable Double share, Estate estate) {
    Store store = estate.store(order.store());
    boolean known = store != null && store.throughput() != null && store.throughput() > 0;
    return share == null || !known
        ? order
        : order.with(order.options().atMost(Math.max(1, Math.round(share * store.throughput()))));
  }
}
