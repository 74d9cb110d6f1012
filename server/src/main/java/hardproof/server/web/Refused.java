package hardproof.server.web;

/** Something well-formed that can't be done; the message says why and what would do. */
public class Refused extends RuntimeException {
  private static final long serialVersionUID = 1L;

  public Refused(String message) {
    super(message);
  }
}
