package hardproof.proving.checks;

import java.io.IOException;
import java.time.Instant;
import java.util.Set;
import org.jspecify.annotations.Nullable;

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

  /**
   * What a question gives: the first value of a query, of an attribute, the SHA-256 of a file.
   *
   * @throws Unanswered where it gives none, in words that follow the question
   * @throws IOException when the sandbox can't be read: a fault of ours, not an answer
   */
  default String value(String question) throws Unanswered, IOException {
    throw new Unanswered("can't be asked for a value");
  }

  /** Why it does not answer any more, although it did; null as long as it does. */
  default @Nullable String fallen() throws IOException {
    return null;
  }

  /** A question gave no value. */
  final class Unanswered extends Exception {
    private static final long serialVersionUID = 1L;

    public Unanswered(String message) {
      super(message);
    }
  }

  @Override
  default void close() throws IOException {}
}
