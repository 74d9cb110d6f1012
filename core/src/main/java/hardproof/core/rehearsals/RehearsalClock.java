package hardproof.core.rehearsals;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * How long a rehearsal took: from its begin to the last check that passed, without the time in which nothing went on
 * but waiting for somebody's word.
 */
public final class RehearsalClock {
  /**
   * A member's work.
   *
   * @param begun when it began
   * @param worked when restoring and checking were over
   * @param settled when somebody's word had come; {@code worked} where nobody was asked
   */
  public record Work(Instant begun, Instant worked, Instant settled) {}

  private RehearsalClock() {}

  /** When the last check passed; {@code begin} where nothing was done. */
  public static Instant end(Instant begin, List<Work> works) {
    return works.stream().map(Work::worked).max(Comparator.naturalOrder()).orElse(begin);
  }

  public static Duration of(Instant begin, List<Work> works) {
    Instant end = end(begin, works);
    return Duration.between(begin, end).minus(waited(begin, end, works));
  }

  /** Time before {@code end} in which at least one waited for a word and none was at work. */
  static Duration waited(Instant begin, Instant end, List<Work> works) {
    List<Instant> turns = new ArrayList<>(List.of(begin, end));
    works.forEach(w -> turns.addAll(List.of(w.begun(), w.worked(), w.settled())));
    List<Instant> inOrder = turns.stream()
        .distinct()
        .filter(t -> !t.isBefore(begin) && !t.isAfter(end))
        .sorted()
        .toList();
    Duration waited = Duration.ZERO;
    for (int i = 1; i < inOrder.size(); i++) {
      Instant from = inOrder.get(i - 1);
      Instant to = inOrder.get(i);
      boolean atWork =
          works.stream().anyMatch(w -> !w.begun().isAfter(from) && !w.worked().isBefore(to));
      boolean awaits =
          works.stream().anyMatch(w -> !w.worked().isAfter(from) && !w.settled().isBefore(to));
      if (awaits && !atWork) {
        waited = waited.plus(Duration.between(from, to));
      }
    }
    return waited;
  }
}
