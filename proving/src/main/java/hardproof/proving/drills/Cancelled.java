package hardproof.proving.drills;

/** A person asked for the end; unchecked so that it passes through streams. */
final class Cancelled extends RuntimeException {
  private static final long serialVersionUID = 1L;

  Cancelled() {
    super("cancelled", null, false, false);
  }
}
