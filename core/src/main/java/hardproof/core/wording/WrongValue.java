package hardproof.core.wording;

/**
 * Something that a person or another program gave can't be right. The message says what is wrong with it and how
 * it is to be written; it is shown as it stands. Everything else that fails is a mistake of ours.
 */
public class WrongValue extends IllegalArgumentException {
  private static final long serialVersionUID = 1L;

  public WrongValue(String message) {
    super(message);
  }

  public WrongValue(String message, Throwable cause) {
    super(message, cause);
  }
}
