package hardproof.server.evidence;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;

/** How far a pack is, and whether somebody wants it no more. For several threads. */
class PackProgress {
  /** Somebody stopped it. */
  static final class Cancelled extends RuntimeException {
    Cancelled() {
      super("it was stopped");
    }
  }

  private volatile String step = "waiting for the one before";
  private volatile boolean cancelled;

  /**
   * Goes on to the next step.
   *
   * @param next in words, such as "making the PDF"
   * @throws Cancelled when somebody stopped it
   */
  void next(String next) {
    goOn();
    step = next;
  }

  private void goOn() {
    if (cancelled) {
      throw new Cancelled();
    }
  }

  /** The same, but that it ends with {@link Cancelled} in the middle of a large file too. */
  OutputStream watched(OutputStream out) {
    return new FilterOutputStream(out) {
      @Override
      public void write(byte[] b, int off, int len) throws IOException {
        goOn();
        out.write(b, off, len);
      }
    };
  }

  String step() {
    return step;
  }

  void cancel() {
    cancelled = true;
  }
}
