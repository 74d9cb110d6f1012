package hardproof.server.rehearsals;

import hardproof.core.criteria.Standard;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.programmes.Capacity;
import hardproof.server.drills.RunQueue;
import hardproof.server.runs.RunStore;
import hardproof.server.storage.Database;
import hardproof.server.web.Refused;
import java.time.Clock;
import java.time.Instant;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The rehearsals of an installation: thought of, ordered, cancelled, and looked after once a second and whenever a drill
 * changes.
 */
public final class Rehearsals implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Rehearsals.class);
  private static final long LOOK_SECONDS = 1;

  private final Database database;
  private final RehearsalStore store;
  private final RunQueue queue;
  private final RehearsalOrders orders;
  private final RehearsalConductor conductor;
  private final Supplier<Capacity> capacity;
  private final Clock clock;
  private final CopyOnWriteArrayList<Consumer<String>> listeners = new CopyOnWriteArrayList<>();

  /** Whether this process conducts; another may hold the data folder. */
  private volatile boolean conducting;

  private final AtomicBoolean due = new AtomicBoolean();
  private final ScheduledExecutorService looks = Executors.newSingleThreadScheduledExecutor(r -> {
    Thread thread = new Thread(r, "rehearsals");
    thread.setDaemon(true);
    return thread;
  });

  public Rehearsals(
      Database database,
      RehearsalStore store,
      RunStore runs,
      RunQueue queue,
      RehearsalOrders orders,
      Supplier<Estate> estate,
      Supplier<Capacity> capacity,
      Clock clock) {
    this.database = database;
    this.store = store;
    this.queue = queue;
    this.orders = orders;
    this.capacity = capacity;
    this.clock = clock;
    RehearsalEnding ending = new RehearsalEnding(store, runs, queue, orders, estate, clock);
    this.conductor = new RehearsalConductor(
        database, store, runs, queue, orders, ending, estate, capacity, clock, this::changed);
    queue.rehearsedBy(conductor::beside, conductor::turnsKept);
  }

  /** Tells {@code listener} the id of every rehearsal that changed. */
  public void onChange(Consumer<String> listener) {
    listeners.add(listener);
  }

  private void changed(String id) {
    for (Consumer<String> listener : listeners) {
      try {
        listener.accept(id);
      } catch (RuntimeException e) {
        // A screen that can't be told must not end a rehearsal.
        LOG.warn("a listener of rehearsal {} failed", id, e);
      }
    }
  }

  /** What an order would bring back and take. */
  public RehearsalOrders.Ready plan(
      Estate facts, Standard standard, Workload workload, RehearsalOrders.Wanted wanted) {
    return orders.ready(facts, standard, capacity.get(), workload, wanted);
  }

  /**
   * Puts a rehearsal into the queue.
   *
   * @throws Refused when it can't be started, or one of the workload is under way
   */
  public String order(
      RehearsalOrders.Ready ready,
      RehearsalOrders.Wanted wanted,
      @Nullable String lossWords,
      String requestedBy,
      @Nullable String programme,
      @Nullable Instant notAfter) {
    if (ready.refusal() != null) {
      throw new Refused(ready.refusal());
    }
    Rehearsal rehearsal =
        Rehearsal.of(ready, wanted, lossWords, requestedBy, programme, notAfter, clock.instant());
    database.write(() -> {
      String workload = ready.plan().workload().key();
      if (underWay(workload)) {
        throw new Refused("A rehearsal of " + ready.plan().workload().name()
            + " waits or goes on already. Wait for its end, or cancel it.");
      }
      store.queue(rehearsal);
      return null;
    });
    changed(rehearsal.id());
    wake();
    return rehearsal.id();
  }

  /** Whether one of a workload waits or goes on. */
  boolean underWay(String workload) {
    return store.underWay().stream().anyMatch(r -> r.order().workload().equals(workload));
  }

  /**
   * Asks one to end.
   *
   * @return false when it has ended already or does not exist
   */
  public boolean cancel(String id) {
    boolean asked = store.askToCancel(id);
    if (asked) {
      wake();
    }
    return asked;
  }

  /** Begins to conduct; only the holder of the data folder may. */
  public void start() {
    conducting = true;
    looks.scheduleWithFixedDelay(this::look, 0, LOOK_SECONDS, TimeUnit.SECONDS);
    queue.onChange(run -> wake());
  }

  /** Something may have changed. */
  private void wake() {
    if (conducting && !looks.isShutdown() && due.compareAndSet(false, true)) {
      looks.execute(this::look);
    }
  }

  private void look() {
    due.set(false);
    try {
      advance();
    } catch (RuntimeException | Error e) {
      // Whatever it is, rehearsals go on with the next look.
      LOG.error("rehearsals could not go on; it is tried again", e);
    }
  }

  /** As {@link RehearsalConductor#advance}. */
  public void advance() {
    conductor.advance();
  }

  /** As {@link RehearsalConductor#recover}. */
  public void recover() {
    conductor.recover();
  }

  /** What is up goes with the process: the rehearsal that it was for ends as interrupted. */
  @Override
  public void close() {
    looks.shutdown();
    try {
      looks.awaitTermination(10, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    conductor.letGo();
  }
}
