package hardproof.proving.checks;

import java.time.Instant;

/**
 * What came of a check.
 *
 * @param sentence what was found and what was expected, for people
 * @param newest the newest time found in the data; null when none was looked for
 */
public record Answer(boolean passed, String sentence, Instant newest) {
  public static Answer of(boolean passed, String sentence) {
    return new Answer(passed, sentence, null);
  }
}
