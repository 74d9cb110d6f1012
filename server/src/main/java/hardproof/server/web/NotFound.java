package hardproof.server.web;

/** What was asked for is not there. */
public final class NotFound extends RuntimeException {
  private static final long serialVersionUID = 1L;

  public NotFound(String message) {
    super(message);
  }
}
