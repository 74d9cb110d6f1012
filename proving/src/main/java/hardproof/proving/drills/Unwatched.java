package hardproof.proving.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.RestoreState;
import hardproof.proving.boot.Screen;
import java.util.List;

/** Watches nothing and never stops: for work that nobody follows, and to begin from. */
public class Unwatched implements DrillWatcher {
  @Override
  public void planned(List<String> steps) {}

  @Override
  public void started(int step, long totalBytes) {}

  @Override
  public void progressed(int step, long doneBytes) {}

  @Override
  public void ended(int step, StepState state, long doneBytes, String message) {}

  @Override
  public void restore(RestoreState state) {}

  @Override
  public void checks(ChecksState state) {}

  @Override
  public void cleanup(CleanupState state) {}

  @Override
  public void screen(Screen screen) {}

  @Override
  public void screens(List<Screen> last, String screenClass, String engine) {}

  @Override
  public boolean cancelled() {
    return false;
  }
}
