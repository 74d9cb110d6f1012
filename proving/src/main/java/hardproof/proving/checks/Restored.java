package hardproof.proving.checks;

import java.io.IOException;
import java.time.Instant;
import java.util.Set;

/** Restored data that can be asked. */
public interface Restored extends AutoCloseable {
  /** What can be asked of it. */
  Set<Aspect> aspects();

  /**
   * Answers one check, of a type that suits.
   *
   * @param dataTime of the point that was restored; null when not known
   * @throws IOException when the sandbox can't be read: a fault of ours, not an answer
   */
  Answer ask(Check check, Instant dataTime) throws IOException;

  @Override
  default void close() throws IOException {}
}
