package hardproof.server.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.RestoreState;
import hardproof.proving.boot.Screen;
import hardproof.proving.drills.DrillWatcher;
import hardproof.proving.drills.StepState;
import hardproof.server.runs.RunStore;
import hardproof.server.runs.ScreenStore;
import java.time.Clock;
import java.util.List;
import java.util.function.Consumer;

/**
 * Writes down what a run does. Progress goes to the database at most once a second; open screens
 * are told with every write. Failing to write ends the drill: without a record there is no proof.
 */
public final class RunRecorder implements DrillWatcher {
  private static final long WRITE_EVERY_NANOS = 1_000_000_000L;
  private static final long ASK_EVERY_NANOS = 200_000_000L;

  private final String run;
  private final RunStore store;
  private final ScreenStore screens;
  private final Clock clock;
  private final Consumer<String> changed;
  private long lastWrite;
  private long lastScreen;
  private volatile long lastAsked;
  private volatile boolean cancelled;

  /**
   * @param changed told the run's id after each write
   */
  public RunRecorder(
      String run, RunStore store, ScreenStore screens, Clock clock, Consumer<String> changed) {
    this.run = run;
    this.store = store;
    this.screens = screens;
    this.clock = clock;
    this.changed = changed;
    long past = System.nanoTime() - WRITE_EVERY_NANOS;
    this.lastWrite = past;
    this.lastScreen = past;
    this.lastAsked = past;
  }

  @Override
  public void planned(List<String> steps) {
    store.steps().plan(run, steps);
    changed.accept(run);
  }

  @Override
  public void started(int step, long totalBytes) {
    store.steps().started(run, step, totalBytes, clock.instant());
    changed.accept(run);
  }

  @Override
  public void progressed(int step, long doneBytes) {
    long now = System.nanoTime();
    if (now - lastWrite >= WRITE_EVERY_NANOS) {
      lastWrite = now;
      store.steps().progressed(run, step, doneBytes);
      changed.accept(run);
    }
  }

  @Override
  public void ended(int step, StepState state, long doneBytes, String message) {
    store.steps().ended(run, step, state, doneBytes, message, clock.instant());
    changed.accept(run);
  }

  @Override
  public void restore(RestoreState state) {
    store.restore(run, state);
    changed.accept(run);
  }

  @Override
  public void checks(ChecksState state) {
    store.checks(run, state);
    changed.accept(run);
  }

  @Override
  public void cleanup(CleanupState state) {
    store.cleanup(run, state, clock.instant());
    changed.accept(run);
  }

  @Override
  public void screen(Screen screen) {
    long now = System.nanoTime();
    if (now - lastScreen >= WRITE_EVERY_NANOS) {
      lastScreen = now;
      screens.live(run, screen);
      changed.accept(run);
    }
  }

  @Override
  public void screens(List<Screen> last, String screenClass, String engine) {
    screens.last(run, last, screenClass, engine);
    changed.accept(run);
  }

  @Override
  public boolean cancelled() {
    long now = System.nanoTime();
    if (!cancelled && now - lastAsked >= ASK_EVERY_NANOS) {
      lastAsked = now;
      cancelled = store.cancelAsked(run);
    }
    return cancelled;
  }
}
