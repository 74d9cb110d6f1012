package hardproof.server.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.proving.drills.DrillPlan;
import hardproof.proving.drills.DrillRequest;
import hardproof.proving.drills.DrillRunner;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunStore;
import hardproof.server.storage.NoSpaceLeft;
import java.io.IOException;
import java.time.Clock;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Takes away what runs restored, makes room for the next, and ends those that a fault of ours ended. */
final class Caretaker {
  private static final Logger LOG = LoggerFactory.getLogger(Caretaker.class);

  private final RunStore store;
  private final DrillOrders orders;
  private final DrillRunner runner;
  private final Sandboxes sandboxes;
  private final Clock clock;
  private final RunListeners listeners;

  /** Runs that ended by a fault of ours and whose end could not be written down yet, with why. */
  private final Map<String, String> lost = new ConcurrentHashMap<>();

  Caretaker(
      RunStore store,
      DrillOrders orders,
      DrillRunner runner,
      Sandboxes sandboxes,
      Clock clock,
      RunListeners listeners) {
    this.store = store;
    this.orders = orders;
    this.runner = runner;
    this.sandboxes = sandboxes;
    this.clock = clock;
    this.listeners = listeners;
  }

  /** Whether what it found was written down before it was cut off: that holds. */
  static boolean judged(Run run) {
    return run.restore().isFinal() && run.checks() != ChecksState.WAITING;
  }

  /** A run ended by a fault of ours. */
  void lost(String run, Throwable fault) {
    lost.put(
        run,
        fault instanceof NoSpaceLeft
            ? "interrupted: there is no space left for our own database; it says nothing about the data"
            : "interrupted by a fault of the application, whose log says more; it says nothing about"
                + " the data");
    endTheLost();
  }

  /**
   * Ends runs that a fault of ours ended. Their sandboxes go first: where the disk is full, what is written
   * down about them needs the room.
   */
  void endTheLost() {
    for (Map.Entry<String, String> entry : lost.entrySet()) {
      String id = entry.getKey();
      removeFolder(id);
      try {
        conclude(entry, id);
      } catch (RuntimeException e) {
        // It is tried again with the next look after the sandboxes.
        LOG.error("that run {} ended could not be written down yet", id, e);
      }
    }
  }

  private void removeFolder(String id) {
    try {
      sandboxes.remove(id);
    } catch (IOException e) {
      LOG.warn("the sandbox of run {} could not be removed: {}", id, e.getMessage());
    }
  }

  private void conclude(Map.Entry<String, String> entry, String id) {
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
    listeners.changed(id);
  }

  /** Where space or sandboxes are short, what is held goes before its time, the oldest first. */
  void makeRoom(DrillRequest request) {
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
        listeners.changed(held.id());
      }
    } catch (IOException e) {
      LOG.warn("room could not be made for run {}", request.run(), e);
    }
  }

  /**
   * Removes what a run restored now.
   *
   * @return false when there is nothing of it, or it still works
   * @throws IOException when it can't be removed, with why
   */
  boolean cleanUpNow(String id) throws IOException {
    Run run = store.find(id).orElse(null);
    boolean left = run != null
        && run.ended()
        && (run.cleanup() == CleanupState.HOLDING || run.cleanup() == CleanupState.FAILED);
    if (left) {
      try {
        tryToRemove(run);
      } finally {
        listeners.changed(id);
      }
    }
    return left;
  }

  /** Removes restored data whose time is over, and tries again where a removal failed. */
  void cleanUp() {
    for (Run run : store.toCleanUp(clock.instant())) {
      if (removeSandbox(run) || run.cleanup() != CleanupState.FAILED) {
        listeners.changed(run.id());
      }
    }
  }

  /** Removes a sandbox, or writes down that this failed; it is tried again and again, and told once. */
  boolean removeSandbox(Run run) {
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
}
