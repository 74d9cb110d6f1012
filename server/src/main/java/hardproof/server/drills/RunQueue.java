package hardproof.server.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.RestoreState;
import hardproof.core.facts.Estate;
import hardproof.core.programmes.Admission;
import hardproof.core.programmes.Held;
import hardproof.proving.drills.DrillRequest;
import hardproof.proving.drills.DrillResult;
import hardproof.proving.drills.DrillRunner;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.outside.OutsideChecks;
import hardproof.server.runs.BaselineStore;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.runs.ScreenStore;
import hardproof.server.runs.WaitingStore;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Works through the queue of runs. Only the process that holds the data folder's lock may do so;
 * therefore a run that is under way when a process begins has lost the one that ran it.
 */
public final class RunQueue implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(RunQueue.class);

  /** So long an unknown screen waits for somebody who knows it. */
  private static final Duration PERSON_MAY_TAKE = Duration.ofDays(7);

  private final RunStore store;
  private final DrillOrders orders;
  private final ScreenStore screens;
  private final BaselineStore baselines;
  private final DrillRunner runner;
  private final Supplier<Estate> estate;
  private final Clock clock;
  private final Semaphore work = new Semaphore(0);
  private final RunListeners listeners = new RunListeners();
  private final Caretaker caretaker;
  private final WaitingRoom waiting;
  private final CopyOnWriteArrayList<Thread> workers = new CopyOnWriteArrayList<>();
  /** Runs that this process carries out; others in the database may be another's. */
  private final Set<String> mine = ConcurrentHashMap.newKeySet();

  private final Turns turns;

  private volatile boolean closed;
  private volatile Rehearsed rehearsed = run -> null;

  /** Knows which runs are members of rehearsals. */
  @FunctionalInterface
  public interface Rehearsed {
    /** What is up beside a run; null for a drill by itself. */
    DrillRequest.@Nullable Beside beside(String run);
  }

  public RunQueue(
      RunStore store,
      WaitingStore waitingRuns,
      DrillOrders orders,
      ScreenStore screens,
      BaselineStore baselines,
      OutsideChecks outside,
      DrillRunner runner,
      Sandboxes sandboxes,
      Supplier<Estate> estate,
      Clock clock) {
    this.store = store;
    this.turns = new Turns(store, waitingRuns, clock, listeners);
    this.orders = orders;
    this.screens = screens;
    this.baselines = baselines;
    this.runner = runner;
    this.estate = estate;
    this.clock = clock;
    this.caretaker = new Caretaker(store, orders, runner, sandboxes, clock, listeners);
    this.waiting = new WaitingRoom(store, outside, caretaker, clock, listeners);
  }

  /** Tells {@code listener} the id of every run that changed, on the thread that changed it. */
  public void onChange(Consumer<String> listener) {
    listeners.add(listener);
  }

  /** Ends what an earlier process left under way and removes its sandboxes. */
  public void recover() {
    for (Run run : store.underWay()) {
      if (run.awaiting()) {
        waiting.takeUp(run);
        continue;
      }
      if (run.startedAt() == null) {
        continue;
      }
      interrupt(run);
    }
  }

  private void interrupt(Run run) {
    store.interrupt(
        run,
        Caretaker.judged(run)
            ? "the application stopped after the last check, before its sentence was written"
            : "interrupted: the application stopped while it ran; it says nothing about the data",
        clock.instant());
    if (run.cleanup() == CleanupState.NOT_DUE && run.method().needsSandbox()) {
      caretaker.removeSandbox(run);
    }
    LOG.warn("run {} of {} was under way when the application stopped", run.id(), run.resource());
    listeners.changed(run.id());
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
      } catch (Throwable e) {
        // Whatever it is, drills go on: a worker that ends would leave runs waiting for ever.
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
    Optional<Run> claimed = turns.claim();
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

  /** Says who decides which of the runs that wait begins next. */
  public void admitBy(Supplier<Admission> decides) {
    turns.admitBy(decides);
  }

  /** Says who knows which runs are members of rehearsals, and how much room these keep from others. */
  public void rehearsedBy(Rehearsed knows, java.util.function.IntSupplier kept) {
    rehearsed = knows;
    turns.keep(kept);
  }

  /** How many drills by themselves are at work. */
  public int othersAtWork() {
    return turns.othersAtWork();
  }

  /** Why the runs that wait do not begin now, by their ids. */
  public Map<String, Held> held() {
    return turns.held();
  }

  private void carryOut(Run run) {
    listeners.changed(run.id());
    if (store.cancelAsked(run.id())) {
      store.interrupt(run, "cancelled before it began", clock.instant());
      listeners.changed(run.id());
      return;
    }
    RunOrder order = RunOrder.of(run);
    work(run, order);
    listeners.changed(run.id());
  }

  private void work(Run run, RunOrder order) {
    try {
      RunRecorder recorder = new RunRecorder(run.id(), store, screens, clock, listeners::changed);
      DrillRequest request = orders.request(estate.get(), run.id(), order);
      DrillRequest.Beside beside = rehearsed.beside(run.id());
      if (beside != null) {
        request = request.beside(beside);
      }
      caretaker.makeRoom(request);
      finish(run, request, runner.run(request, recorder));
    } catch (DrillOrders.OrderRefused e) {
      store.restore(run.id(), RestoreState.REFUSED);
      store.checks(run.id(), ChecksState.NOT_ASKED);
      store.interrupt(store.find(run.id()).orElseThrow(), e.getMessage(), clock.instant());
    } catch (RuntimeException | Error e) {
      LOG.error("run {} ended by a fault of ours", run.id(), e);
      caretaker.lost(run.id(), e);
    }
  }

  private void finish(Run run, DrillRequest request, DrillResult result) {
    Instant now = clock.instant();
    baselines.keep(result.baselines(), run.store(), run.id(), now);
    switch (result.awaits()) {
      case NOBODY -> store.end(run.id(), result, now);
      case PERSON -> store.await(run.id(), result, now, now.plus(PERSON_MAY_TAKE));
      case OUTSIDE -> {
        store.await(run.id(), result, now, now.plus(OutsideChecks.longest(request.outside())));
        waiting.askOutside(run.id(), now);
      }
    }
  }

  /**
   * Somebody's word has come for a run that waited for it.
   *
   * @param sentence what was said and by whom, for people
   * @return false when the run does not wait any more
   */
  public boolean answer(String id, ChecksState checks, String sentence) {
    return waiting.answer(id, checks, sentence);
  }

  /** Ends a run that waits for an answer from outside, when all of it is there. */
  public void answerFromOutside(String id) {
    waiting.answerFromOutside(id);
  }

  /** Ends the waiting for words that did not come in time. */
  public void endTheWaiting() {
    waiting.endTheWaiting();
  }

  /**
   * Removes what a run restored now.
   *
   * @return false when there is nothing of it, or it still works
   * @throws IOException when it can't be removed, with why
   */
  public boolean cleanUpNow(String id) throws IOException {
    return caretaker.cleanUpNow(id);
  }

  /** Removes restored data whose time is over, and tries again where a removal failed. */
  public void cleanUp() {
    caretaker.endTheLost();
    endTheWaiting();
    caretaker.cleanUp();
  }

  /** Whether the process is about to end. */
  public boolean closed() {
    return closed;
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
