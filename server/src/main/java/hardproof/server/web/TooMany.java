package hardproof.server.web;

import hardproof.core.wording.Wording;
import java.time.Duration;

/** Too many wrong tries; it says how long to wait. */
public final class TooMany extends RuntimeException {
  private static final long serialVersionUID = 1L;
  private final Duration wait;

  public TooMany(Duration wait) {
    super("Too many wrong tries. Try again in " + Wording.duration(wait.plusMillis(999)) + ".");
    this.wait = wait;
  }

  /** Whole seconds, rounded up. */
  public long seconds() {
    return wait.plusMillis(999).toSeconds();
  }
}
