package hardproof.proving.drills;

/** The run has to end before it is done; unchecked so that it passes through streams. */
final class Cancelled extends RuntimeException {
  private static final long serialVersionUID = 1L;

  /**
   * @param why for people: {@code cancelled before its end}
   */
  Cancelled(String why) {
    super(why, null, false, false);
  }
}
