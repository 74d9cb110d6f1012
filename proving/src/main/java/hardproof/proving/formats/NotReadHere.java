package hardproof.proving.formats;

import java.io.IOException;

/**
 * We lack what reading it takes: a format, a method, a key, room. It says nothing about the data. The message
 * says what is missing and how to add it.
 */
public final class NotReadHere extends IOException {
  private static final long serialVersionUID = 1L;

  public NotReadHere(String message) {
    super(message);
  }

  public NotReadHere(String message, Throwable cause) {
    super(message, cause);
  }
}
