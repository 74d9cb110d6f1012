package hardproof.proving.archives;

import java.io.IOException;

/** The bytes are not a whole archive of their format. */
public final class BrokenArchive extends IOException {
  public BrokenArchive(String message, Throwable cause) {
    super(message, cause);
  }
}
