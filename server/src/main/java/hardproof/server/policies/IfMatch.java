package hardproof.server.policies;

import java.time.Instant;

/** The If-Match header: the instant at which the state that an editor saw was recorded. */
final class IfMatch {
  private IfMatch() {}

  /**
   * @throws IllegalArgumentException when it is not such an instant in epoch milliseconds
   */
  static Instant seen(String header) {
    try {
      return Instant.ofEpochMilli(Long.parseLong(header.replace("\"", "")));
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException(
          "If-Match is not a state that was read here; read what is to be changed again", e);
    }
  }
}
