package hardproof.proving.archives;

import java.io.IOException;

/** The bytes are not a whole archive of their format. */
public final class BrokenArchive extends IOException {
  private static final long serialVersionUID = 1L;

  public BrokenArchive(String message) {
    super(message);
  }

  public BrokenArchive(String message, Throwable cause) {
    super(message, cause);
  }
}
