package hardproof.server.drills;

import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Chain;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.programmes.Pick;
import hardproof.proving.checks.Check;
import hardproof.proving.drills.Artifact;
import hardproof.proving.drills.Baseline;
import hardproof.proving.drills.DrillOptions;
import hardproof.proving.drills.DrillPlan;
import hardproof.proving.drills.DrillRequest;
import hardproof.proving.drills.DrillRunner;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.proving.stores.ArtifactStore;
import hardproof.proving.stores.PacedStore;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.runs.BaselineStore;
import hardproof.server.runs.CheckStore;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.runs.ScreenStore;
import hardproof.server.stores.Stores;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;

/** Turns what somebody wants drilled into what is to be read from where, by the facts. */
public final class DrillOrders {
  private final DrillRunner runner;
  private final RunStore runs;
  private final Sandboxes sandboxes;
  private final CheckStore checks;
  private final ScreenStore screens;
  private final DrillArtifacts artifacts;
  private final Stores stores;
  private final OutsideHosts outside;
  private final Clock clock;

  public DrillOrders(
      DrillRunner runner,
      RunStore runs,
      Sandboxes sandboxes,
      CheckStore checks,
      ScreenStore screens,
      BaselineStore baselines,
      Stores stores,
      OutsideHosts outside,
      Clock clock) {
    this.runner = runner;
    this.runs = runs;
    this.sandboxes = sandboxes;
    this.checks = checks;
    this.screens = screens;
    this.artifacts = new DrillArtifacts(baselines);
    this.stores = stores;
    this.outside = outside;
    this.clock = clock;
  }

  /** The order can't be carried out; the message says why and what would do. */
  public static final class OrderRefused extends Refused {
    private static final long serialVersionUID = 1L;

    OrderRefused(String message) {
      super(message);
    }
  }

  /**
   * Fills in what was left open: the newest usable point, a store that holds the whole chain, the
   * method that shows the most, the kept queries.
   *
   * @throws OrderRefused when there is nothing to drill
   */
  public RunOrder complete(Estate estate, RunOrder order) {
    Resource resource = resource(estate, order.resource());
    RecoveryPoint point = point(estate, order, resource);
    String store = order.store() == null ? storeFor(estate, point) : order.store();
    List<Check> kept = this.checks.of(resource.key());
    Method method = method(estate, order, resource, point, store);
    return new RunOrder(
        resource.key(),
        point.key(),
        store,
        method,
        // Checks that a person names for a drill must suit it; those that are kept are asked where
        // they do.
        order.checks() == null ? runner.suiting(method, kept) : order.checks(),
        order.reason(),
        order.hold() == null || !method.needsSandbox() ? Duration.ZERO : order.hold(),
        order.options() == null ? DrillOptions.usual() : order.options());
  }

  /**
   * Fills in what was left open for a member of a rehearsal: the method that shows the most, at least restored, and
   * the kept checks, those of what it needs among them.
   *
   * @throws OrderRefused when it can't be brought back
   */
  public RunOrder member(Estate estate, RunOrder order, DrillRequest.Beside beside) {
    Resource resource = resource(estate, order.resource());
    List<Check> kept = checks.of(resource.key());
    String refusal = null;
    List<Method> methods = new ArrayList<>(Method.suiting(resource.kind()));
    java.util.Collections.reverse(methods);
    for (Method method : methods) {
      if (method == Method.SAMPLE_RESTORE || !method.rung().atLeast(Rung.RESTORED)) {
        continue;
      }
      RunOrder trial = new RunOrder(
          order.resource(),
          order.point(),
          order.store(),
          method,
          runner.suitingTogether(method, kept),
          order.reason(),
          order.hold(),
          order.options());
      String why = plan(estate, trial, beside).refusal();
      if (why == null) {
        return trial;
      }
      refusal = refusal == null ? why : refusal;
    }
    throw new OrderRefused(resource.name() + ": " + refusal);
  }

  /** As {@link #plan(Estate, RunOrder)}, beside other members of a rehearsal. */
  public DrillPlan plan(Estate estate, RunOrder order, DrillRequest.Beside beside) {
    try {
      return runner.plan(request(estate, "plan", order).beside(beside), this::heldBytes);
    } catch (IOException e) {
      throw new OrderRefused("The sandbox folder can't be used: " + e.getMessage() + ".");
    }
  }

  /** The same order with more checks, as far as they suit its method and are not asked already. */
  RunOrder alsoAsking(RunOrder complete, List<Check> more) {
    List<Check> all = new ArrayList<>(complete.checks());
    runner.suiting(complete.method(), more).stream()
        .filter(c -> !all.contains(c))
        .forEach(all::add);
    return complete.asking(List.copyOf(all));
  }

  private static RecoveryPoint point(Estate estate, RunOrder order, Resource resource) {
    RecoveryPoint point = order.point() == null
        ? newest(estate, resource)
        : estate.point(resource.key(), order.point());
    if (point == null) {
      throw new OrderRefused(
          "'" + order.point() + "' is no recovery point of " + resource.name() + ".");
    }
    return point;
  }

  private Method method(
      Estate estate, RunOrder order, Resource resource, RecoveryPoint point, String store) {
    Method method = order.method();
    if (method == null) {
      method = strongest(estate, resource, point, store, order);
    } else if (!method.suits(resource.kind())) {
      throw new OrderRefused("A drill by " + method.words() + " does not suit a "
          + resource.kind().words() + "; choose one of "
          + String.join(
              ", ", Method.suiting(resource.kind()).stream().map(Method::words).toList())
          + ".");
    }
    return method;
  }

  private static Resource resource(Estate estate, String key) {
    Resource resource = estate.resource(key);
    if (resource == null) {
      throw new OrderRefused("There is no resource '" + key + "'.");
    }
    return resource;
  }

  private static RecoveryPoint newest(Estate estate, Resource resource) {
    return Usability.newest(estate, resource.key())
        .orElseThrow(() -> new OrderRefused(resource.name()
            + " has no usable recovery point to drill. Choose a point yourself to find"
            + " out what is wrong with it, or make a new one."));
  }

  private String storeFor(Estate estate, RecoveryPoint point) {
    return Pick.holding(estate, point).stream()
        .max(java.util.Comparator.comparingInt(s -> reachable(estate.store(s)) ? 1 : 0))
        .orElseThrow(() -> new OrderRefused("No store holds every artifact of the chain of "
            + point.key()
            + " with a known place. Bring in the field place of copies, or choose another point."));
  }

  /** How stores are reached. */
  public Stores stores() {
    return stores;
  }

  /** Whether a store can be read from here. */
  public boolean reachable(Store store) {
    return stores.reachable(store);
  }

  /** The strongest method that would not be refused; else the strongest, whose refusal says why. */
  private Method strongest(
      Estate estate, Resource resource, RecoveryPoint point, String store, RunOrder order) {
    List<Method> methods = new ArrayList<>(Method.suiting(resource.kind()));
    java.util.Collections.reverse(methods);
    // A sample is for who wants one; it shows less than what comes after it.
    methods.remove(Method.SAMPLE_RESTORE);
    for (Method method : methods) {
      RunOrder trial = trial(resource, point, store, order, method);
      if (plan(estate, trial).refusal() == null) {
        return method;
      }
    }
    return methods.get(0);
  }

  private RunOrder trial(
      Resource resource, RecoveryPoint point, String store, RunOrder order, Method method) {
    List<Check> checks = order.checks() == null
        ? runner.suiting(method, this.checks.of(resource.key()))
        : order.checks();
    return new RunOrder(
        resource.key(),
        point.key(),
        store,
        method,
        checks,
        "",
        Duration.ZERO,
        order.options() == null ? DrillOptions.usual() : order.options());
  }

  /** What a complete order would do and take, when what is held makes room for it. */
  public DrillPlan plan(Estate estate, RunOrder order) {
    try {
      return runner.plan(request(estate, "plan", order), this::heldBytes);
    } catch (IOException e) {
      throw new OrderRefused("The sandbox folder can't be used: " + e.getMessage() + ".");
    }
  }

  /** Bytes that earlier runs hold, and that could be removed to make room. */
  public long heldBytes() {
    try {
      long bytes = 0;
      for (Run held : runs.holding()) {
        bytes += sandboxes.sizeBytes(held.id());
      }
      return bytes;
    } catch (IOException e) {
      return 0; // What can't be counted is not counted on.
    }
  }

  /** The request that the runner carries out. */
  public DrillRequest request(Estate estate, String run, RunOrder order) {
    Store store = store(estate, order);
    refuseChecks(order);
    PointSet own = estate.pointSet(order.resource());
    RecoveryPoint point = own.point(order.point());
    List<Artifact> chained = chained(order, store, own, point);
    return new DrillRequest(
        run,
        new DrillRequest.Of(order.resource(), order.point(), point.dataTime()),
        new DrillRequest.From(store.key(), store.name(), paced(order, stores.open(store))),
        order.method(),
        chained,
        Objects.requireNonNullElse(order.checks(), List.of()),
        !order.hold().isZero(),
        Objects.requireNonNullElse(order.options(), DrillOptions.usual()),
        order.method() == Method.DIRECTORY ? artifacts.before(own, point, order.store()) : null,
        order.method() == Method.BOOT ? screens.acceptedFor(order.resource()) : List.of());
  }

  private static ArtifactStore paced(RunOrder order, ArtifactStore store) {
    Long most = order.options() == null ? null : order.options().bytesPerSecond();
    return most == null ? store : new PacedStore(store, most);
  }

  private List<Artifact> chained(RunOrder order, Store store, PointSet own, RecoveryPoint point) {
    Chain chain = Chain.of(point, own::point);
    if (!chain.whole()) {
      throw new OrderRefused("The chain of " + point.key() + " is broken: " + chain.breakSentence()
          + ". There is nothing whole to drill; choose a point with a whole chain.");
    }
    List<Artifact> chained = new ArrayList<>();
    for (RecoveryPoint link : chain.points()) {
      chained.add(artifacts
          .of(own, link, order.store())
          .orElseThrow(() -> new OrderRefused("No copy of " + link.key()
              + " with a known place is on " + store.name() + ". Choose another store.")));
    }
    return chained;
  }

  private Store store(Estate estate, RunOrder order) {
    Store store = estate.store(order.store());
    if (store == null) {
      throw new OrderRefused("'" + order.store() + "' is not a known store.");
    }
    if (!stores.known(store)) {
      throw new OrderRefused(Stores.unknown(store));
    }
    return store;
  }

  private void refuseChecks(RunOrder order) {
    for (Check check : Objects.requireNonNullElse(order.checks(), List.<Check>of())) {
      String refusal = check.outside() ? outside.refusal(check.subject()) : null;
      if (refusal != null) {
        throw new OrderRefused(refusal);
      }
    }
  }

  /** Keeps what was found of artifacts that were read for the first time. */
  public void keepBaselines(List<Baseline> found, String store, String run) {
    artifacts.keep(found, store, run, clock.instant());
  }

  /** The artifact of a point on a store; empty when its place is not known. */
  public Optional<Artifact> artifact(PointSet own, RecoveryPoint point, String store) {
    return artifacts.of(own, point, store);
  }
}
