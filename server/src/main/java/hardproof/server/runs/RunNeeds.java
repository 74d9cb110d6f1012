package hardproof.server.runs;

import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What a run that waits will take, and until when it may begin.
 *
 * @param neededBy when the proof that it renews lapses; null where there is none
 * @param notAfter it is missed when it has not begun by then; null where it may wait
 * @param takes as long as is estimated; null where nothing says
 * @param attempt which try it is, from 1
 */
public record RunNeeds(
    @Nullable Instant neededBy,
    @Nullable Instant notAfter,
    @Nullable Duration takes,
    long readBytes,
    long spaceBytes,
    double cost,
    int attempt) {
  /** Of what a person asks for: it may wait as long as it must. */
  public static RunNeeds of(long readBytes, long spaceBytes) {
    return new RunNeeds(null, null, null, readBytes, spaceBytes, 0, 1);
  }

  /** The same for the next try. */
  public RunNeeds again(Instant until) {
    return new RunNeeds(neededBy, until, takes, readBytes, spaceBytes, cost, attempt + 1);
  }
}
