package hardproof.server.evidence;

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
    if (cancelled) {
      throw new Cancelled();
    }
    step = next;
  }

  String step() {
    return step;
  }

  void cancel() {
    cancelled = true;
  }
}
