package hardproof.server.web;

/** Somebody else was first; the message says what happened and what to do. Nothing was overwritten. */
public class Conflict extends RuntimeException {
  private static final long serialVersionUID = 1L;

  public Conflict(String message) {
    super(message);
  }
}
