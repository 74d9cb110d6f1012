package hardproof.server.web;

import hardproof.core.wording.WrongValue;
import java.time.Instant;

/** The If-Match header: the instant at which the state that an editor saw was recorded. */
public final class IfMatch {
  private IfMatch() {}

  /**
   * @throws WrongValue when it is not such an instant in epoch milliseconds
   */
  public static Instant seen(String header) {
    try {
      return Instant.ofEpochMilli(Long.parseLong(header.replace("\"", "")));
    } catch (NumberFormatException e) {
      throw new WrongValue(
          "If-Match is not a state that was read here; read what is to be changed again", e);
    }
  }
}
