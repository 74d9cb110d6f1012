package hardproof.server.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.RestoreState;
import hardproof.core.facts.Estate;
import hardproof.proving.drills.DrillResult;
import hardproof.proving.drills.DrillRunner;
import hardproof.proving.sandboxes.Sandboxes;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Works through the queue of runs. Only the process that holds the data folder's lock may do so;
 * therefore a run that is under way when a process begins has lost the one that ran it.
 */
public final class RunQueue implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(RunQueue.class);

  private final RunStore store;
  private final DrillOrders orders;
  private final DrillRunner runner;
  private final Sandboxes sandboxes;
  private final Supplier<Estate> estate;
  private final Clock clock;
  private final Semaphore work = new Semaphore(0);
  private final CopyOnWriteArrayList<Consumer<String>> listeners = new CopyOnWriteArrayList<>();
  private final CopyOnWriteArrayList<Thread> workers = new CopyOnWriteArrayList<>();
  /** Runs that this process carries out; others in the database may be another's. */
  private final Set<String> mine = ConcurrentHashMap.newKeySet();

  private volatile boolean closed;

  public RunQueue(
      RunStore store,
      DrillOrders orders,
      DrillRunner runner,
      Sandboxes sandboxes,
      Supplier<Estate> estate,
      Clock clock) {
    this.store = store;
    this.orders = orders;
    this.runner = runner;
    this.sandboxes = sandboxes;
    this.estate = estate;
    this.clock = clock;
  }

  /** Tells {@code listener} the id of every run that changed, on the thread that changed it. */
  public void onChange(Consumer<String> listener) {
    listeners.add(listener);
  }

  private void changed(String run) {
    for (Consumer<String> listener : listeners) {
      try {
        listener.accept(run);
      } catch (RuntimeException e) {
        // A screen that can't be told must not end a drill.
        LOG.warn("a listener of run {} failed", run, e);
      }
    }
  }

  /** Ends what an earlier process left under way and removes its sandboxes. */
  public void recover() {
    for (Run run : store.underWay()) {
      if (run.startedAt() == null) {
        continue;
      }
      store.interrupt(
          run,
          "interrupted: the application stopped while it ran; it says nothing about the data",
          clock.instant());
      if (run.cleanup() == CleanupState.NOT_DUE && run.method().needsSandbox()) {
        removeSandbox(run);
      }
      LOG.warn("run {} of {} was under way when the application stopped", run.id(), run.resource());
      changed(run.id());
    }
  }

  /** Begins working with {@code count} runs at once. */
  public void start(int count) {
    for (int i = 0; i < count; i++) {
      Thread worker = new Thread(this::workLoop, "drill-worker-" + (i + 1));
      worker.setDaemon(true);
      workers.add(worker);
      worker.start();
    }
  }

  /** There may be something to do. */
  public void wake() {
    work.release();
  }

  private void workLoop() {
    while (!closed) {
      try {
        if (!runOne()) {
          work.tryAcquire(1, TimeUnit.SECONDS);
        }
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        return;
      } catch (RuntimeException e) {
        LOG.error("the run queue could not go on; it tries again", e);
        pause();
      }
    }
  }

  private void pause() {
    try {
      work.tryAcquire(5, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /**
   * Takes one run from the queue and carries it out.
   *
   * @return false when none waited
   */
  public boolean runOne() {
    Optional<Run> claimed = store.claim(clock.instant());
    claimed.ifPresent(run -> {
      mine.add(run.id());
      try {
        carryOut(run);
      } finally {
        mine.remove(run.id());
      }
    });
    return claimed.isPresent();
  }

  private void carryOut(Run run) {
    changed(run.id());
    if (store.cancelAsked(run.id())) {
      store.interrupt(run, "cancelled before it began", clock.instant());
      changed(run.id());
      return;
    }
    RunOrder order = new RunOrder(
        run.resource(),
        run.point(),
        run.store(),
        run.method(),
        run.checksAsked(),
        run.reason(),
        run.hold());
    try {
      RunRecorder recorder = new RunRecorder(run.id(), store, clock, this::changed);
      DrillResult result = runner.run(orders.request(estate.get(), run.id(), order), recorder);
      store.end(run.id(), result, clock.instant());
    } catch (DrillOrders.OrderRefused e) {
      store.restore(run.id(), RestoreState.REFUSED);
      store.checks(run.id(), ChecksState.NOT_ASKED);
      store.interrupt(store.find(run.id()).orElseThrow(), e.getMessage(), clock.instant());
    } catch (RuntimeException e) {
      LOG.error("run {} ended by a fault of ours", run.id(), e);
      store.interrupt(
          store.find(run.id()).orElseThrow(),
          "interrupted by a fault of the application (" + e.getMessage()
              + "); it says nothing about the data",
          clock.instant());
      removeSandbox(store.find(run.id()).orElseThrow());
    }
    changed(run.id());
  }

  /** Removes restored data whose time is over, and tries again where a removal failed. */
  public void cleanUp() {
    for (Run run : store.toCleanUp(clock.instant())) {
      removeSandbox(run);
      changed(run.id());
    }
  }

  private void removeSandbox(Run run) {
    try {
      sandboxes.remove(run.id());
      store.cleanup(run.id(), CleanupState.DONE);
    } catch (IOException e) {
      LOG.warn("the sandbox of run {} could not be removed", run.id(), e);
      if (run.cleanup() != CleanupState.FAILED) {
        store.cleanup(run.id(), CleanupState.FAILED);
      }
    }
  }

  /** Interrupts the runs that this process carries out and waits a moment for them to be written down. */
  @Override
  public void close() {
    closed = true;
    mine.forEach(store::askToCancel);
    work.release(workers.size());
    for (Thread worker : workers) {
      try {
        worker.join(Duration.ofSeconds(10).toMillis());
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
  }
}
