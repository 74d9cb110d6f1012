package hardproof.server.searches;

import hardproof.core.drills.DrillFact;
import hardproof.core.drills.GoodPointSearch;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.facts.Estate;
import hardproof.core.integrity.SearchCandidates;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.programmes.Pick;
import hardproof.core.wording.Wording;
import hardproof.proving.checks.Check;
import hardproof.proving.drills.DrillPlan;
import hardproof.server.drills.DrillOrders;
import hardproof.server.drills.RunQueue;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunNeeds;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.storage.Database;
import hardproof.server.web.Refused;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;

/**
 * Searches for the newest point that passes, drill by drill. What has been tried is in the database, so
 * that a search goes on after a restart.
 */
public final class PointSearches {
  private static final int ALL = 100;

  private final Database database;
  private final SearchStore searches;
  private final RunStore runs;
  private final DrillOrders orders;
  private final RunQueue queue;
  private final Supplier<Estate> estate;
  private final Clock clock;

  public PointSearches(
      Database database,
      RunStore runs,
      DrillOrders orders,
      RunQueue queue,
      Supplier<Estate> estate,
      Clock clock) {
    this.database = database;
    this.searches = new SearchStore(database);
    this.runs = runs;
    this.orders = orders;
    this.queue = queue;
    this.estate = estate;
    this.clock = clock;
    queue.onChange(this::runChanged);
  }

  /**
   * Begins a search with a drill of the newest point.
   *
   * @param method null for the one that shows the most
   * @throws Refused when there is nothing to try
   */
  public PointSearch begin(
      String resource, String store, Method method, List<Check> checks, String by, String reason) {
    Estate facts = estate.get();
    List<RecoveryPoint> candidates = candidates(facts, resource, store, Instant.MAX);
    if (candidates.isEmpty()) {
      throw new Refused("No complete point of this resource with a whole chain has artifacts that"
          + " can be read" + (store == null ? "" : " from " + facts.storeName(store)) + ".");
    }
    RunOrder order = orders.complete(
        facts,
        new RunOrder(
            resource, candidates.get(0).key(), store, method, checks, reason, Duration.ZERO));
    long id =
        searches.begin(resource, store, order, new PointSearch.Order(by, reason), clock.instant());
    goOn(id);
    return searches.find(id).orElseThrow();
  }

  /** Whether the last good point of a resource is being looked for. */
  public boolean underWay(String resource) {
    return searches.all(ALL).stream().anyMatch(s -> !s.ended() && s.resource().equals(resource));
  }

  /** The points that can be tried, newest first: complete, chain whole, on a store; known by then. */
  private static List<RecoveryPoint> candidates(
      Estate facts, String resource, String store, Instant until) {
    if (facts.resource(resource) == null) {
      throw new Refused("There is no resource '" + resource + "'.");
    }
    return SearchCandidates.of(facts, resource, until, point -> {
      Set<String> stores = Pick.holding(facts, point);
      return store == null ? !stores.isEmpty() : stores.contains(store);
    });
  }

  private void runChanged(String run) {
    Run ended = runs.find(run).filter(Run::ended).orElse(null);
    if (ended == null || queue.closed()) {
      return; // What the end of the process cuts off is for recover() to take up.
    }
    searches.waitingFor(run).ifPresent(id -> took(id, ended, !runs.cancelAsked(run)));
  }

  /**
   * Takes what a drill showed. One that was cut off is carried out once more where that may be, and not a
   * third time: it may be what ended the process.
   */
  private void took(long id, Run run, boolean again) {
    if (!letGo(id, run.id())) {
      return; // Somebody else has told of the same ending.
    }
    boolean cutOff = run.restore() == RestoreState.INTERRUPTED;
    if (!run.fact().passed() && !run.fact().failed() && !(cutOff && again && first(id, run))) {
      end(
          id,
          null,
          "ended: the drill of " + run.point() + " could not be carried out: " + run.sentence());
      return;
    }
    goOn(id);
  }

  /** Writes down what a drill showed, and that the search waits for it no more; false where it did not. */
  private boolean letGo(long id, String run) {
    DrillFact shown = runs.find(run).orElseThrow().fact();
    Boolean passed = shown.passed() || shown.failed() ? shown.passed() : null;
    return searches.letGo(id, run, passed);
  }

  /** Goes on with searches whose drill ended while nobody listened. */
  public void recover() {
    for (PointSearch search : searches.all(ALL)) {
      if (search.ended()) {
        continue;
      }
      Run run = search.run() == null ? null : runs.find(search.run()).orElse(null);
      if (run == null) {
        goOn(search.id());
      } else if (run.ended()) {
        took(search.id(), run, true);
      }
    }
  }

  private boolean first(long id, Run run) {
    return searches.tried(id).stream()
            .filter(t -> t.point().equals(run.point()))
            .count()
        == 1;
  }

  private void goOn(long id) {
    PointSearch search = searches.find(id).orElseThrow();
    if (search.cancelAsked()) {
      end(id, null, "cancelled after " + Wording.count(search.tried().size(), "drill", "drills"));
      return;
    }
    Estate facts = estate.get();
    List<RecoveryPoint> points =
        candidates(facts, search.resource(), search.store(), search.startedAt());
    Map<String, Integer> numbers = new HashMap<>();
    for (int i = 0; i < points.size(); i++) {
      numbers.put(points.get(i).key(), i);
    }
    Map<Integer, Boolean> tried = new HashMap<>();
    boolean stays = true;
    for (PointSearch.Tried one : search.tried()) {
      Integer number = numbers.get(one.point());
      if (number != null && one.passed() != null) {
        tried.put(number, one.passed());
        stays &= one.passed() || contentWasBad(one.run());
      }
    }
    GoodPointSearch.Step step = GoodPointSearch.next(points.size(), tried, stays);
    switch (step.kind()) {
      case FOUND -> found(search, points, step.point(), tried);
      case NONE ->
        end(id, null, "none of the " + Wording.count(points.size(), "point", "points") + " passes");
      case TRY -> drill(search, points.get(step.point()), facts);
    }
  }

  /** Whether a failure blamed what was backed up, and not one copy of it: such damage stays. */
  private boolean contentWasBad(String run) {
    return runs.find(run)
        .map(r -> r.blamedPoint() != null && r.blamedStore() == null)
        .orElse(false);
  }

  private void drill(PointSearch search, RecoveryPoint point, Estate facts) {
    try {
      RunOrder order = order(search, point, facts);
      var plan = orders.plan(facts, order);
      if (plan.refusal() != null) {
        end(search.id(), null, "ended: " + point.key() + " can't be drilled: " + plan.refusal());
        return;
      }
      queue(search, point, order, plan);
      queue.wake();
    } catch (DrillOrders.OrderRefused e) {
      end(search.id(), null, "ended: " + point.key() + " can't be drilled: " + e.getMessage());
    }
  }

  private RunOrder order(PointSearch search, RecoveryPoint point, Estate facts) {
    return orders.complete(
        facts,
        new RunOrder(
            search.resource(),
            point.key(),
            search.store(),
            search.method(),
            search.checks(),
            "search for the last good point: " + search.reason(),
            Duration.ZERO));
  }

  private void queue(PointSearch search, RecoveryPoint point, RunOrder order, DrillPlan plan) {
    database.write(() -> {
      if (searches.find(search.id()).filter(s -> !s.ended()).isEmpty()) {
        return 0; // It was cancelled meanwhile.
      }
      String run = runs.queue(
          order,
          plan.reaches(),
          RunNeeds.of(plan.readBytes(), plan.spaceBytes()),
          null,
          search.requestedBy(),
          clock.instant());
      searches.tries(search, point.key(), run);
      return 1;
    });
  }

  private void found(
      PointSearch search, List<RecoveryPoint> points, int number, Map<Integer, Boolean> tried) {
    RecoveryPoint good = points.get(number);
    Instant now = clock.instant();
    long failed = tried.values().stream().filter(passed -> !passed).count();
    long untried = number - failed;
    String newer = number == 0
        ? ", the newest there is"
        : "; "
            + Wording.count(
                failed, "newer one was tried and fails", "newer ones were tried and fail")
            + (untried == 0 ? "" : ", " + untried + " in between were not tried");
    end(
        search.id(),
        good.key(),
        "the last good point is " + good.key() + ", of "
            + Wording.time(good.dataTime(), now) + " ("
            + Wording.duration(Duration.between(good.dataTime(), now)) + " old)" + newer
            + ". " + Wording.count(tried.size(), "drill", "drills")
            + (untried > 0
                ? ", by halving: damage inside the data stays once it came"
                : number == 0 ? "" : ", one by one"));
  }

  /** Asks a search to end; the drill under way is cancelled. */
  public void cancel(long id) {
    PointSearch search = searches.find(id).orElseThrow();
    if (search.ended()) {
      throw new Refused("This search has ended already; there is nothing to cancel.");
    }
    searches.askToCancel(id);
    if (search.run() != null) {
      runs.askToCancel(search.run());
      queue.wake();
    }
    end(id, null, "cancelled after " + Wording.count(search.tried().size(), "drill", "drills"));
  }

  private void end(long id, String good, String sentence) {
    searches.end(id, good, sentence, clock.instant());
  }

  public Optional<PointSearch> find(long id) {
    return searches.find(id);
  }

  /** The searches, newest first. */
  public List<PointSearch> all(int atMost) {
    return searches.all(atMost);
  }
}
