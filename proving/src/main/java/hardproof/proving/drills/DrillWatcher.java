package hardproof.proving.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.RestoreState;
import hardproof.proving.boot.Screen;
import java.util.List;

/**
 * Told what a drill does, in this order: planned once; then for each step started, any number of
 * progressed, ended; the answers as they change, each before its effect starts. Calls come one at a
 * time, on any thread. An exception thrown here ends the drill: without a record there is no proof.
 */
public interface DrillWatcher {
  void planned(List<String> steps);

  void started(int step, long totalBytes);

  void progressed(int step, long doneBytes);

  void ended(int step, StepState state, long doneBytes, String message);

  void restore(RestoreState state);

  void checks(ChecksState state);

  void cleanup(CleanupState state);

  /** A machine that was started shows this now. */
  void screen(Screen screen);

  /**
   * The last screens of a machine that was started, with what was concluded from them.
   *
   * @param screenClass code of the conclusion
   */
  void screens(List<Screen> last, String screenClass, String engine);

  /** Asked often; true ends the drill as interrupted. */
  boolean cancelled();
}
