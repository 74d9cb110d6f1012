package hardproof.core.schedule;

import java.time.Instant;
import java.util.Iterator;
import java.util.NoSuchElementException;
import java.util.Optional;

/** When something recurs. */
@FunctionalInterface
public interface Recurrence {
  /** The first time strictly after an instant; empty when there is none any more. */
  Optional<Instant> nextAfter(Instant instant);

  /** Every time strictly after an instant, in order; to be asked for as many as are wanted. */
  default Iterator<Instant> startsAfter(Instant instant) {
    return new Iterator<>() {
      private Optional<Instant> next = nextAfter(instant);

      @Override
      public boolean hasNext() {
        return next.isPresent();
      }

      @Override
      public Instant next() {
        Instant given = next.orElseThrow(NoSuchElementException::new);
        next = nextAfter(given);
        return given;
      }
    };
  }
}
