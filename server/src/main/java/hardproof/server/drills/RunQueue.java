package hardproof.server.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.RestoreState;
import hardproof.core.facts.Estate;
import hardproof.proving.checks.Check;
import hardproof.proving.drills.DrillPlan;
import hardproof.proving.drills.DrillRequest;
import hardproof.proving.drills.DrillResult;
import hardproof.proving.drills.DrillResult.Awaits;
import hardproof.proving.drills.DrillRunner;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.outside.OutsideChecks;
import hardproof.server.runs.BaselineStore;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.runs.ScreenStore;
import hardproof.server.storage.NoSpaceLeft;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
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

  /** So long an unknown screen waits for somebody who knows it. */
  private static final Duration PERSON_MAY_TAKE = Duration.ofDays(7);

  private final RunStore store;
  private final DrillOrders orders;
  private final ScreenStore screens;
  private final BaselineStore baselines;
  private final OutsideChecks outside;
  private final DrillRunner runner;
  private final Sandboxes sandboxes;
  private final Supplier<Estate> estate;
  private final Clock clock;
  private final Semaphore work = new Semaphore(0);
  private final CopyOnWriteArrayList<Consumer<String>> listeners = new CopyOnWriteArrayList<>();
  private final CopyOnWriteArrayList<Thread> workers = new CopyOnWriteArrayList<>();
  /** Runs that this process carries out; others in the database may be another's. */
  private final Set<String> mine = ConcurrentHashMap.newKeySet();

  /** Runs that ended by a fault of ours and whose end could not be written down yet, with why. */
  private final Map<String, String> lost = new ConcurrentHashMap<>();

  private volatile boolean closed;

  public RunQueue(
      RunStore store,
      DrillOrders orders,
      ScreenStore screens,
      BaselineStore baselines,
      OutsideChecks outside,
      DrillRunner runner,
      Sandboxes sandboxes,
      Supplier<Estate> estate,
      Clock clock) {
    this.store = store;
    this.orders = orders;
    this.screens = screens;
    this.baselines = baselines;
    this.outside = outside;
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

  /** Whether what it found was written down before it was cut off: that holds. */
  private static boolean judged(Run run) {
    return run.restore().isFinal() && run.checks() != ChecksState.WAITING;
  }

  /** Ends what an earlier process left under way and removes its sandboxes. */
  public void recover() {
    for (Run run : store.underWay()) {
      if (run.awaiting()) {
        takeUp(run);
        continue;
      }
      if (run.startedAt() == null) {
        continue;
      }
      store.interrupt(
          run,
          judged(run)
              ? "the application stopped after the last check, before its sentence was written"
              : "interrupted: the application stopped while it ran; it says nothing about the data",
          clock.instant());
      if (run.cleanup() == CleanupState.NOT_DUE && run.method().needsSandbox()) {
        removeSandbox(run);
      }
      LOG.warn("run {} of {} was under way when the application stopped", run.id(), run.resource());
      changed(run.id());
    }
  }

  /** A run whose work is done goes on waiting; what a crash came between is made up for. */
  private void takeUp(Run run) {
    if (run.awaits() != Awaits.OUTSIDE) {
      return;
    }
    if (outside.asked(run.id())) {
      outside.askAgain(run, clock.instant());
      answerFromOutside(run.id());
    } else {
      askOutside(run.id(), clock.instant());
    }
  }

  private void askOutside(String id, Instant now) {
    Run run = store.find(id).orElseThrow();
    outside.ask(run, run.checksAsked().stream().filter(Check::outside).toList(), now);
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
        run.hold(),
        run.options());
    try {
      RunRecorder recorder = new RunRecorder(run.id(), store, screens, clock, this::changed);
      DrillRequest request = orders.request(estate.get(), run.id(), order);
      makeRoom(request);
      finish(run, request, runner.run(request, recorder));
    } catch (DrillOrders.OrderRefused e) {
      store.restore(run.id(), RestoreState.REFUSED);
      store.checks(run.id(), ChecksState.NOT_ASKED);
      store.interrupt(store.find(run.id()).orElseThrow(), e.getMessage(), clock.instant());
    } catch (RuntimeException | Error e) {
      LOG.error("run {} ended by a fault of ours", run.id(), e);
      lost.put(
          run.id(),
          e instanceof NoSpaceLeft
              ? "interrupted: there is no space left for our own database; it says nothing about the data"
              : "interrupted by a fault of the application, whose log says more; it says nothing about"
                  + " the data");
      endTheLost();
    }
    changed(run.id());
  }

  /**
   * Ends runs that a fault of ours ended. Their sandboxes go first: where the disk is full, what is written
   * down about them needs the room.
   */
  private void endTheLost() {
    for (Map.Entry<String, String> entry : lost.entrySet()) {
      String id = entry.getKey();
      try {
        sandboxes.remove(id);
      } catch (IOException e) {
        LOG.warn("the sandbox of run {} could not be removed: {}", id, e.getMessage());
      }
      try {
        Run run = store.find(id).orElseThrow();
        if (!run.ended()) {
          store.interrupt(
              run,
              judged(run)
                  ? "what it found was written down; its end could not be written at once"
                  : entry.getValue(),
              clock.instant());
        }
        if (run.method().needsSandbox() && run.cleanup() != CleanupState.DONE) {
          removeSandbox(store.find(id).orElseThrow());
        }
        lost.remove(id);
        changed(id);
      } catch (RuntimeException e) {
        // It is tried again with the next look after the sandboxes.
        LOG.error("that run {} ended could not be written down yet", id, e);
      }
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
        askOutside(run.id(), now);
      }
    }
  }

  /** Where space or sandboxes are short, what is held goes before its time, the oldest first. */
  private void makeRoom(DrillRequest request) {
    if (!request.method().needsSandbox()) {
      return;
    }
    try {
      if (runner.plan(request, orders::heldBytes).refusal() != null) {
        return; // Nothing that is held is given up in vain.
      }
      for (Run held : store.holding()) {
        DrillPlan plan = runner.plan(request);
        boolean tight = plan.refusal() != null && plan.spaceBytes() > plan.freeBytes();
        if (!tight && sandboxes.present().size() < runner.limits().sandboxes()) {
          return;
        }
        LOG.info("what run {} restored is removed before its time to make room", held.id());
        removeSandbox(held);
        changed(held.id());
      }
    } catch (IOException e) {
      LOG.warn("room could not be made for run {}", request.run(), e);
    }
  }

  /**
   * Somebody's word has come for a run that waited for it.
   *
   * @param sentence what was said and by whom, for people
   * @return false when the run does not wait any more
   */
  public boolean answer(String id, ChecksState checks, String sentence) {
    Run run = store.find(id).filter(Run::awaiting).orElse(null);
    if (run == null) {
      return false;
    }
    String told = run.sentence() + "; " + sentence;
    Instant now = clock.instant();
    List<Check> others = run.checksAsked().stream().filter(Check::outside).toList();
    if (run.awaits() == Awaits.PERSON && checks == ChecksState.PASSED && !others.isEmpty()) {
      // The screen is right; what others were to be asked is not answered by that.
      if (!store.awaitOutside(id, told, now.plus(OutsideChecks.longest(others)))) {
        return false;
      }
      askOutside(id, now);
      changed(id);
      return true;
    }
    String blamed = checks == ChecksState.FAILED ? run.point() : null;
    if (!store.answered(id, checks, blamed, told, now)) {
      return false;
    }
    if (run.method().needsSandbox() && run.cleanup() == CleanupState.NOT_DUE) {
      if (run.hold().isZero()) {
        removeSandbox(store.find(id).orElseThrow());
      } else {
        store.cleanup(id, CleanupState.HOLDING, now);
      }
    }
    changed(id);
    return true;
  }

  /** Ends a run that waits for an answer from outside, when all of it is there. */
  public void answerFromOutside(String id) {
    OutsideChecks.Answered answered = outside.state(id);
    if (answered.all()) {
      answer(id, answered.passed() ? ChecksState.PASSED : ChecksState.FAILED, answered.sentence());
    }
  }

  /** Ends the waiting for words that did not come in time. */
  public void endTheWaiting() {
    for (Run run : store.awaitedTooLong(clock.instant())) {
      boolean asked = run.awaits() == Awaits.OUTSIDE;
      answer(
          run.id(),
          asked ? ChecksState.TIMED_OUT : ChecksState.NOT_ASKED,
          asked
              ? outside.unanswered(run.id())
              : "nobody said whether its screen is the right one, so nothing is shown");
    }
  }

  /**
   * Removes what a run restored now.
   *
   * @return false when there is nothing of it, or it still works
   * @throws IOException when it can't be removed, with why
   */
  public boolean cleanUpNow(String id) throws IOException {
    Run run = store.find(id).orElse(null);
    boolean left = run != null
        && run.ended()
        && (run.cleanup() == CleanupState.HOLDING || run.cleanup() == CleanupState.FAILED);
    if (left) {
      try {
        tryToRemove(run);
      } finally {
        changed(id);
      }
    }
    return left;
  }

  /** Removes restored data whose time is over, and tries again where a removal failed. */
  public void cleanUp() {
    endTheLost();
    endTheWaiting();
    for (Run run : store.toCleanUp(clock.instant())) {
      if (removeSandbox(run) || run.cleanup() != CleanupState.FAILED) {
        changed(run.id());
      }
    }
  }

  /** Removes a sandbox, or writes down that this failed; it is tried again and again, and told once. */
  private boolean removeSandbox(Run run) {
    try {
      tryToRemove(run);
      return true;
    } catch (IOException e) {
      if (run.cleanup() != CleanupState.FAILED) {
        LOG.warn("the sandbox of run {} could not be removed: {}", run.id(), e.getMessage());
      }
      return false;
    }
  }

  private void tryToRemove(Run run) throws IOException {
    try {
      sandboxes.remove(run.id());
      store.cleanup(run.id(), CleanupState.DONE, clock.instant());
    } catch (IOException e) {
      if (run.cleanup() != CleanupState.FAILED) {
        store.cleanup(run.id(), CleanupState.FAILED, clock.instant());
      }
      throw e;
    }
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
