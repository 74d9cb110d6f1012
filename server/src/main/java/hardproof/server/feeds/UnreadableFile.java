package hardproof.server.feeds;

import hardproof.core.feeds.Rejection;
import java.io.IOException;

/** A whole file can't be taken. */
final class UnreadableFile extends IOException {
  private static final long serialVersionUID = 1L;
  private final transient Rejection rejection;

  UnreadableFile(String file, long line, String value, String reason) {
    super(reason);
    this.rejection = new Rejection(file, line, null, value, reason);
  }

  Rejection rejection() {
    return rejection;
  }
}
