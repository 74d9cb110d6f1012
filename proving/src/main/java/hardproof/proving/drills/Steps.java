package hardproof.proving.drills;

import hardproof.core.wording.Wording;
import hardproof.proving.boot.Screen;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;

/** Reports the steps of one run to its watcher and stops it when cancelled. */
final class Steps {
  private static final long REPORT_EVERY_NANOS = 100_000_000L;

  private final DrillWatcher watcher;
  private final List<String> names;
  private int current = -1;
  private boolean open;
  private final AtomicLong done = new AtomicLong();
  private final AtomicLong nextReport = new AtomicLong();

  private final long limitNanos;
  private volatile boolean released;
  private final long begun = System.nanoTime();

  /**
   * @param limit until the run is ended
   */
  Steps(DrillWatcher watcher, List<String> names, Duration limit) {
    this.watcher = watcher;
    this.names = names;
    this.limitNanos = limit.toNanos();
    watcher.planned(names);
  }

  /** Of a machine that was started. */
  void shows(Screen screen) {
    watcher.screen(screen);
  }

  void showed(List<Screen> last, String screenClass, String engine) {
    watcher.screens(last, screenClass, engine);
  }

  void start(long totalBytes) {
    stopIfCancelled();
    current++;
    open = true;
    done.set(0);
    watcher.started(current, totalBytes);
  }

  void done(String message) {
    open = false;
    watcher.ended(current, StepState.DONE, done.get(), message);
  }

  /** Ends the step that is open, if any, as failed, and skips the others up to {@code keep}. */
  void fail(String message, int keep) {
    if (open) {
      open = false;
      watcher.ended(current, StepState.FAILED, done.get(), message);
    }
    while (current + 1 < names.size() - keep) {
      current++;
      watcher.ended(current, StepState.SKIPPED, 0, "");
    }
  }

  /** Starts the last step even when the run was cancelled: what was restored must go. */
  void cleanUp() {
    current = names.size() - 1;
    open = true;
    done.set(0);
    watcher.started(current, 0);
  }

  long bytesOfStep() {
    return done.get();
  }

  /** May be called from several threads. */
  void read(long bytes) {
    long now = System.nanoTime();
    long total = done.addAndGet(bytes);
    long due = nextReport.get();
    if (now - due >= 0 && nextReport.compareAndSet(due, now + REPORT_EVERY_NANOS)) {
      stopIfCancelled();
      synchronized (this) {
        watcher.progressed(current, total);
      }
    }
  }

  /** What it brought back stays up when the run has ended: its limits hold no more. */
  void release() {
    released = true;
  }

  void stopIfCancelled() {
    if (released) {
      return;
    }
    if (watcher.cancelled()) {
      throw new Cancelled("cancelled before its end");
    }
    if (System.nanoTime() - begun > limitNanos) {
      throw new Cancelled("ended: it took longer than the "
          + Wording.duration(Duration.ofNanos(limitNanos)) + " that a run may take");
    }
  }
}
