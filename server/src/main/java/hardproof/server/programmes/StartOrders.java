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
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** What a start of a programme drills: which resources, which of their points, from which copy. */
final class StartOrders {
  private final DrillOrders orders;
  private final PickedOrders picked;
  private final Outlook outlook;

  StartOrders(DrillOrders orders, Outlook outlook) {
    this.orders = orders;
    this.picked = new PickedOrders(orders);
    this.outlook = outlook;
  }

  /** A start that is handled. */
  record Due(
      Programme programme,
      ProgrammeTerms terms,
      Capacity capacity,
      DueStarts.Decision decision,
      Instant now) {
    Instant notAfter() {
      return decision.due().plus(window(terms, capacity, decision.due()));
    }

    /** How late a start may be; one as needed may be so until its night is over. */
    static Duration window(ProgrammeTerms terms, Capacity capacity, Instant at) {
      return terms.asNeeded()
          ? Renewals.night(capacity, terms, at).length()
          : terms.timing().startWindow();
    }
  }

  /** An order with the rung that a pass of it would show, and what it will take. */
  record Ready(RunOrder order, Rung reaches, RunNeeds needs) {}

  /** What is drawn from, and what was known before it. */
  record Drawn(String known, Draw draw, @Nullable Integer sample) {}

  /**
   * What a start comes to.
   *
   * @param drawn null where nothing is drawn
   * @param refused why resources can't be drilled, by their keys
   * @param left what else is due and has no room, for people; empty when nothing is
   * @param skipped of what is refused, what is not even queued
   */
  record Start(
      List<Ready> ready,
      @Nullable Drawn drawn,
      Map<String, String> refused,
      List<String> skipped,
      String left) {
    static final Start NONE = new Start(List.of(), null, Map.of(), List.of(), "");

    /** For people; empty where there is nothing to say. */
    String reason(DueStarts.Decision decision) {
      String all = skipped.isEmpty()
          ? decision.reason()
          : Wording.count(skipped.size(), "resource", "resources") + " could not be drilled: "
              + String.join(" ", skipped);
      return left.isEmpty() ? all : all.isEmpty() ? left : left + "; " + all;
    }
  }

  Start of(Due due, Evaluated before) {
    Map<String, String> refused = new LinkedHashMap<>();
    Chosen chosen = chosen(due, before, refused);
    List<String> skipped = new ArrayList<>(refused.values());
    Map<Resource, Pick> picks = picks(before.estate(), chosen.neededBy().keySet());
    Drawn drawn = drawn(due, before, picks);
    TimeEstimates estimates = new TimeEstimates(before.estate());
    List<Ready> ready = new ArrayList<>();
    for (Wanted wanted : wanted(picks, drawn, before.estate())) {
      Resource resource = wanted.resource();
      try {
        RunOrder order = order(due, before, wanted, picks.get(resource));
        DrillPlan plan = orders.plan(before.estate(), order);
        if (plan.refusal() != null) {
          // It is tried all the same: what is missing may be there when its turn comes.
          refused.put(resource.key(), plan.refusal());
        }
        ready.add(ready(due, before, order, plan, estimates, chosen.neededBy().get(resource)));
      } catch (DrillOrders.OrderRefused e) {
        refused.put(resource.key(), e.getMessage());
        skipped.add(e.getMessage());
      }
    }
    return new Start(ready, drawn, refused, skipped, chosen.left());
  }

  /**
   * The resources of a start.
   *
   * @param neededBy with the instant at which the proof of each lapses, or null
   * @param left what else is due and has no room, for people; empty when nothing is
   */
  private record Chosen(Map<Resource, @Nullable Instant> neededBy, String left) {}

  private Chosen chosen(Due due, Evaluated before, Map<String, String> refused) {
    Map<Resource, @Nullable Instant> neededBy = new LinkedHashMap<>();
    if (!due.terms().asNeeded()) {
      Members.of(due.terms(), before.estate(), before.evaluation())
          .forEach(r -> neededBy.put(r, lapses(before, r)));
      return new Chosen(
          neededBy, neededBy.isEmpty() ? "nothing matches it that has a recovery point" : "");
    }
    Renewals.Tonight tonight = tonight(due, before, refused);
    tonight.chosen().forEach(c -> neededBy.put(c.resource(), c.neededBy()));
    int left = tonight.leftOut().size();
    return new Chosen(
        neededBy,
        left > 0
            ? Wording.count(left, "more is", "more are") + " due, and the night has no room"
            : neededBy.isEmpty() && refused.isEmpty() ? "nothing was needed" : "");
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
      Wanted wanted = wanted(pick, drawn(due, before, pick), before.estate()).get(0);
      RunOrder order = order(due, before, wanted, pick.get(resource));
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

  private static Ready ready(
      Due due,
      Evaluated before,
      RunOrder order,
      DrillPlan plan,
      TimeEstimates estimates,
      @Nullable Instant neededBy) {
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

  private static Map<Resource, Pick> picks(Estate facts, Iterable<Resource> resources) {
    Map<Resource, Pick> picks = new LinkedHashMap<>();
    resources.forEach(r -> picks.put(r, new Pick(facts, r)));
    return picks;
  }

  /** Null where nothing is drawn. */
  private static @Nullable Drawn drawn(Due due, Evaluated before, Map<Resource, Pick> picks) {
    PointChoice choice = due.programme().how().point();
    if (choice.way() != PointChoice.Way.RANDOM) {
      return null;
    }
    String known = Draw.known(before.evaluation());
    String seed = Draw.seed(due.programme().key(), due.decision().due(), known);
    List<Draw.Candidate> candidates =
        picks.values().stream().flatMap(p -> p.candidates(choice).stream()).toList();
    return new Drawn(known, Draw.of(seed, candidates), choice.sample());
  }

  /** A drill that is wanted; {@code drawn} is null where nothing is drawn, or nothing of the resource. */
  private record Wanted(Resource resource, Draw.@Nullable Candidate drawn) {}

  private static List<Wanted> wanted(
      Map<Resource, Pick> picks, @Nullable Drawn drawn, Estate facts) {
    if (drawn == null) {
      return picks.keySet().stream().map(r -> new Wanted(r, null)).toList();
    } else if (drawn.sample() == null) {
      return picks.keySet().stream()
          .map(r -> new Wanted(r, drawn.draw().of(r.key()).orElse(null)))
          .toList();
    }
    return drawn.draw().first(drawn.sample()).stream()
        .map(c -> new Wanted(Objects.requireNonNull(facts.resource(c.resource())), c))
        .toList();
  }

  private RunOrder order(Due due, Evaluated before, Wanted wanted, Pick pick) {
    Programme.How how = due.programme().how();
    Resource resource = wanted.resource();
    ResourceResult result = before.evaluation().resource(resource.key());
    Rung demanded = result == null ? Rung.RESTORED : result.proof().demanded();
    RunOrder order = picked.of(
        before.estate(),
        resource,
        pick,
        new PickedOrders.Choice(
            how.point(), how.copy(), how.checks() == null ? List.of() : how.checks(), how.hold()),
        wanted.drawn(),
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
