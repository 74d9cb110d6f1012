package hardproof.server.integrity;

import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.integrity.SweepPlan;
import hardproof.core.wording.Wording;
import hardproof.proving.drills.DrillRunner;
import hardproof.server.drills.DrillOrders;
import hardproof.server.stores.Stores;
import hardproof.server.web.Refused;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Reads everything on a store, what was read least recently first. One artifact is read at a time; what
 * has been read is written down artifact by artifact, so that a sweep goes on where it was after a pause
 * or a restart.
 */
public final class Sweeps implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Sweeps.class);
  private static final long LOOK_EVERY_MS = 1000;

  private final SweepStore store;
  private final SweepReading reading;
  private final DrillOrders orders;
  private final Supplier<Estate> estate;
  private final Clock clock;
  private final Object work = new Object();
  private Thread worker;
  private volatile boolean closed;
  private volatile SweepWatcher now;
  private volatile Runnable changed = () -> {};

  public Sweeps(
      SweepStore store,
      ReadBackStore readBacks,
      DrillOrders orders,
      DrillRunner runner,
      Supplier<Estate> estate,
      Clock clock) {
    this.store = store;
    this.reading = new SweepReading(store, readBacks, orders, runner, estate, clock);
    this.orders = orders;
    this.estate = estate;
    this.clock = clock;
  }

  /** Told whenever something was read. */
  public void onChange(Runnable listener) {
    changed = listener;
  }

  /**
   * Plans a sweep of a store and begins it.
   *
   * @param bytesPerSecond it reads no faster; null for as fast as it can
   * @throws Refused when there is nothing to read, or one is under way
   */
  public Sweep begin(String storeKey, Long bytesPerSecond, String by, String reason) {
    Estate facts = estate.get();
    Store place = place(storeKey, facts);
    List<Sweep.Item> items = plan(facts, storeKey);
    if (items.isEmpty()) {
      throw new Refused("No artifact with a known place is on " + place.name()
          + ". Bring in the field place of copies.");
    }
    long id = store
        .plan(storeKey, bytesPerSecond, by, reason, items, clock.instant())
        .orElseThrow(() -> new Refused(
            "A sweep of " + place.name() + " is under way already. Cancel it, or let it end."));
    wake();
    return store.find(id).orElseThrow();
  }

  private Store place(String storeKey, Estate facts) {
    Store place = facts.store(storeKey);
    if (place == null) {
      throw new Refused("There is no store '" + storeKey + "'.");
    }
    if (!orders.stores().known(place)) {
      throw new Refused(Stores.unknown(place));
    }
    return place;
  }

  static List<Sweep.Item> plan(Estate facts, String storeKey) {
    List<Sweep.Item> items = new ArrayList<>();
    for (SweepPlan.Artifact a : SweepPlan.of(facts, storeKey)) {
      items.add(new Sweep.Item(0, items.size(), a.resource(), a.point(), a.sizeBytes()));
    }
    return items;
  }

  /** Begins working; only the holder of the data folder may. */
  public synchronized void start() {
    worker = new Thread(this::loop, "sweeper");
    worker.setDaemon(true);
    worker.start();
  }

  private void wake() {
    synchronized (work) {
      work.notifyAll();
    }
  }

  private void loop() {
    while (!closed) {
      boolean more = readNextQuietly();
      try {
        synchronized (work) {
          if (!more && !closed) {
            work.wait(LOOK_EVERY_MS);
          }
        }
      } catch (InterruptedException e) {
        return;
      }
    }
  }

  private boolean readNextQuietly() {
    boolean more = false;
    try {
      more = readNext();
    } catch (RuntimeException e) {
      LOG.error("a sweep could not go on; it tries again", e);
    }
    return more;
  }

  /**
   * Reads the next artifact of a sweep that runs.
   *
   * @return false when there is none
   */
  public boolean readNext() {
    endFinished();
    Sweep.Item item = store.next().orElse(null);
    if (item == null) {
      return false;
    }
    Sweep sweep = store.find(item.sweep()).orElseThrow();
    readItem(item, sweep);
    return true;
  }

  private void endFinished() {
    for (long id : store.finished()) {
      Sweep sweep = store.find(id).orElseThrow();
      store.change(id, Sweep.State.DONE, summary(sweep), clock.instant());
      changed.run();
    }
  }

  private void readItem(Sweep.Item item, Sweep sweep) {
    long begun = System.nanoTime();
    Instant started = clock.instant();
    SweepWatcher watcher =
        new SweepWatcher(item, sweep.bytesPerSecond(), () -> closed || !running(item.sweep()));
    now = watcher;
    try {
      reading.read(sweep, item, watcher, started);
    } finally {
      now = null;
      store.worked(item.sweep(), Duration.ofNanos(System.nanoTime() - begun));
      changed.run();
    }
  }

  private boolean running(long id) {
    return store.find(id).map(s -> s.state() == Sweep.State.RUNNING).orElse(false);
  }

  private static String summary(Sweep sweep) {
    return Wording.count(sweep.done(), "artifact", "artifacts") + " read ("
        + Wording.bytes(sweep.doneBytes()) + " in " + Wording.duration(sweep.worked()) + "), "
        + (sweep.failed() == 0
            ? "all as recorded"
            : Wording.count(sweep.failed(), "is", "are") + " damaged or not there");
  }

  /** What is being read at this moment; null when nothing is. */
  SweepWatcher.Progress progress() {
    SweepWatcher watcher = now;
    return watcher == null ? null : watcher.progress();
  }

  void pause(long id, String by) {
    require(store.change(id, Sweep.State.PAUSED, "paused by " + by, clock.instant()), "pause");
    changed.run();
  }

  void resume(long id) {
    require(store.change(id, Sweep.State.RUNNING, "", clock.instant()), "resume");
    wake();
    changed.run();
  }

  void cancel(long id, String by) {
    require(
        store.change(id, Sweep.State.CANCELLED, "cancelled by " + by, clock.instant()), "cancel");
    changed.run();
  }

  void limit(long id, Long bytesPerSecond) {
    require(store.limit(id, bytesPerSecond), "slow down");
    SweepWatcher watcher = now;
    if (watcher != null && watcher.progress().sweep() == id) {
      watcher.limit(bytesPerSecond);
    }
  }

  private static void require(boolean done, String what) {
    if (!done) {
      throw new Refused(
          "This sweep has ended, or is so already; there is nothing to " + what + ".");
    }
  }

  @Override
  public void close() {
    closed = true;
    wake();
    Thread ending = worker;
    if (ending != null) {
      try {
        ending.join(Duration.ofSeconds(10).toMillis());
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
  }
}
