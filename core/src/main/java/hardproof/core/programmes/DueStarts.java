package hardproof.core.programmes;

import hardproof.core.schedule.Recurrence;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Decides what a programme does about the starts that came due since it was last looked at. */
public final class DueStarts {
  /** More due starts than this in one look are taken as one gap: only the newest are listed. */
  static final int LISTED_AT_MOST = 1000;

  private DueStarts() {}

  /**
   * A due start and what becomes of it.
   *
   * @param start true to start now; false when it is missed
   * @param reason why it is missed, or that it is late; empty when on time
   */
  public record Decision(Instant due, boolean start, String reason) {}

  /**
   * Every due instant in (handledUntil, now], oldest first. Only the newest may still start, and
   * only up to {@code startWindow} (inclusive) after it was due: older ones would drill the same
   * point again.
   */
  public static List<Decision> decide(
      Recurrence recurrence, Instant handledUntil, Instant now, Duration startWindow) {
    List<Instant> due = new ArrayList<>();
    Optional<Instant> next = recurrence.nextAfter(handledUntil);
    while (next.isPresent() && !next.get().isAfter(now)) {
      due.add(next.get());
      if (due.size() > LISTED_AT_MOST) {
        due.remove(0);
      }
      next = recurrence.nextAfter(next.get());
    }
    List<Decision> decisions = new ArrayList<>();
    for (int i = 0; i < due.size(); i++) {
      Instant at = due.get(i);
      boolean newest = i == due.size() - 1;
      boolean inWindow = Duration.between(at, now).compareTo(startWindow) <= 0;
      if (newest && inWindow) {
        boolean late = Duration.between(at, now).compareTo(Duration.ofMinutes(1)) > 0;
        decisions.add(new Decision(at, true, late ? "caught up inside its start window" : ""));
      } else if (inWindow) {
        decisions.add(new Decision(at, false, "a later start was due before it could begin"));
      } else {
        decisions.add(
            new Decision(at, false, "the application was not running in its start window"));
      }
    }
    return decisions;
  }
}
