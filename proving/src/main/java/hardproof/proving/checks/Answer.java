package hardproof.proving.checks;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What came of a check.
 *
 * @param judged false when what it would be compared with is not known: that speaks neither for nor against the
 *     data
 * @param sentence what was found and what was expected, for people
 * @param newest the newest time found in the data; null when none was looked for
 */
public record Answer(
    boolean passed,
    boolean judged,
    String sentence,
    @Nullable Instant newest) {
  public static Answer of(boolean passed, String sentence) {
    return new Answer(passed, true, sentence, null);
  }

  /** With the newest time found in the data. */
  public static Answer of(boolean passed, String sentence, Instant newest) {
    return new Answer(passed, true, sentence, newest);
  }

  /** Nothing to compare with is known. */
  public static Answer notJudged(String sentence) {
    return new Answer(false, false, sentence, null);
  }
}
