package hardproof.server.storage;

import hardproof.core.wording.WrongValue;

/**
 * A row of our own file that can't be read any more. It was right when it was written, so it is no fault of
 * whoever asks for it.
 */
public final class UnreadableRow extends IllegalStateException {
  private static final long serialVersionUID = 1L;

  public UnreadableRow(WrongValue cause) {
    super("a row of the database can't be read: " + cause.getMessage(), cause);
  }
}
