package hardproof.server.drills;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability;
import hardproof.core.points.Chain;
import hardproof.core.points.Consistency;
import hardproof.core.points.RecoveryPoint;
import hardproof.proving.drills.Artifact;
import hardproof.proving.drills.DrillPlan;
import hardproof.proving.drills.DrillRequest;
import hardproof.proving.drills.DrillRunner;
import hardproof.proving.drills.SqlCheck;
import hardproof.proving.stores.FolderStore;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;

/** Turns what somebody wants drilled into what is to be read from where, by the facts. */
public final class DrillOrders {
  private final DrillRunner runner;
  private final SqlCheckStore checks;

  public DrillOrders(DrillRunner runner, SqlCheckStore checks) {
    this.runner = runner;
    this.checks = checks;
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
    RecoveryPoint point = order.point() == null
        ? newest(estate, resource)
        : estate.point(resource.key(), order.point());
    if (point == null) {
      throw new OrderRefused(
          "'" + order.point() + "' is no recovery point of " + resource.name() + ".");
    }
    String store = order.store() == null ? storeFor(estate, point) : order.store();
    List<SqlCheck> checks =
        order.checks() == null ? this.checks.of(resource.key()) : order.checks();
    Method method = order.method();
    if (method == null) {
      method = strongest(estate, resource, point, store, checks);
    } else if (!method.suits(resource.kind())) {
      throw new OrderRefused("A drill by " + method.words() + " does not suit a "
          + resource.kind().words() + "; choose one of "
          + String.join(
              ", ", Method.suiting(resource.kind()).stream().map(Method::words).toList())
          + ".");
    }
    return new RunOrder(
        resource.key(),
        point.key(),
        store,
        method,
        method == Method.DATABASE ? checks : List.of(),
        order.reason(),
        order.hold() == null || !method.needsSandbox() ? Duration.ZERO : order.hold());
  }

  private static Resource resource(Estate estate, String key) {
    Resource resource = estate.resource(key);
    if (resource == null) {
      throw new OrderRefused("There is no resource '" + key + "'.");
    }
    return resource;
  }

  private static RecoveryPoint newest(Estate estate, Resource resource) {
    return Usability.of(estate, resource.key(), Consistency.UNKNOWN).points().stream()
        .filter(j -> j.usableAt(estate.asAt()))
        .map(Usability.Judged::point)
        .reduce((a, b) -> b)
        .orElseThrow(() -> new OrderRefused(resource.name()
            + " has no usable recovery point to drill. Choose a point yourself to find"
            + " out what is wrong with it, or make a new one."));
  }

  /** Stores that hold a copy of every point of the chain, by key. */
  public static Set<String> storesFor(Estate estate, RecoveryPoint point) {
    Set<String> stores = null;
    PointSet own = estate.pointSet(point.resource());
    for (RecoveryPoint link : Chain.of(point, own::point).points()) {
      Set<String> here = new TreeSet<>();
      for (Copy copy : own.copiesOf(link)) {
        boolean claimed = copy.state() == CopyState.PRESENT || copy.state() == CopyState.DAMAGED;
        if (claimed && copy.place() != null && estate.store(copy.store()) != null) {
          here.add(copy.store());
        }
      }
      if (stores == null) {
        stores = here;
      } else {
        stores.retainAll(here);
      }
    }
    return stores == null ? Set.of() : stores;
  }

  private static String storeFor(Estate estate, RecoveryPoint point) {
    return storesFor(estate, point).stream()
        .max(java.util.Comparator.comparingInt(s -> reachable(estate.store(s)) ? 1 : 0))
        .orElseThrow(() -> new OrderRefused("No store holds every artifact of the chain of "
            + point.key()
            + " with a known place. Bring in the field place of copies, or choose another point."));
  }

  private static boolean reachable(Store store) {
    return store.path() != null && new FolderStore(Path.of(store.path())).reachable();
  }

  /** The strongest method that would not be refused; else the strongest, whose refusal says why. */
  private Method strongest(
      Estate estate, Resource resource, RecoveryPoint point, String store, List<SqlCheck> checks) {
    List<Method> methods = new ArrayList<>(Method.suiting(resource.kind()));
    java.util.Collections.reverse(methods);
    for (Method method : methods) {
      RunOrder trial =
          new RunOrder(resource.key(), point.key(), store, method, checks, "", Duration.ZERO);
      if (plan(estate, trial).refusal() == null) {
        return method;
      }
    }
    return methods.get(0);
  }

  /** What a complete order would do and take. */
  public DrillPlan plan(Estate estate, RunOrder order) {
    try {
      return runner.plan(request(estate, "plan", order));
    } catch (IOException e) {
      throw new OrderRefused("The sandbox folder can't be used: " + e.getMessage() + ".");
    }
  }

  /** The request that the runner carries out. */
  DrillRequest request(Estate estate, String run, RunOrder order) {
    Store store = estate.store(order.store());
    if (store == null) {
      throw new OrderRefused("'" + order.store() + "' is not a known store.");
    }
    if (store.path() == null) {
      throw new OrderRefused(store.name()
          + " has no path, so nothing can be read from it. Bring in the field path of stores.");
    }
    PointSet own = estate.pointSet(order.resource());
    RecoveryPoint point = own.point(order.point());
    Chain chain = Chain.of(point, own::point);
    if (!chain.whole()) {
      throw new OrderRefused("The chain of " + point.key() + " is broken: " + chain.breakSentence()
          + ". There is nothing whole to drill; choose a point with a whole chain.");
    }
    List<Artifact> artifacts = new ArrayList<>();
    for (RecoveryPoint link : chain.points()) {
      Copy copy = own.copiesOf(link).stream()
          .filter(c -> c.store().equals(order.store()) && c.place() != null)
          .findFirst()
          .orElseThrow(() -> new OrderRefused("No copy of " + link.key()
              + " with a known place is on " + store.name() + ". Choose another store."));
      artifacts.add(new Artifact(
          link.key(),
          copy.format(),
          copy.place(),
          link.sizeBytes(),
          copy.sha256(),
          copy.manifest()));
    }
    return new DrillRequest(
        run,
        order.resource(),
        order.point(),
        store.key(),
        store.name(),
        new FolderStore(Path.of(store.path())),
        order.method(),
        artifacts,
        Objects.requireNonNullElse(order.checks(), List.of()),
        !order.hold().isZero());
  }
}
