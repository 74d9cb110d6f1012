package hardproof.core.schedule;

import java.time.Instant;
import java.util.Optional;

/** When something is due. Implementations follow RFC 5545 section 3.8.5.3 in a zone. */
@FunctionalInterface
public interface Recurrence {
  /** The first due instant strictly after {@code instant}; empty when there is none. */
  Optional<Instant> nextAfter(Instant instant);
}
