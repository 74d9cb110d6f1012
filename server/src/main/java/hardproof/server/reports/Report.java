package hardproof.server.reports;

import hardproof.core.estate.Selector;
import hardproof.core.reports.ReportKind;
import hardproof.core.wording.Coded;
import hardproof.server.schedule.RfcRecurrence;
import java.time.Duration;
import java.time.Instant;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What is to be handed out, when, and to whom.
 *
 * @param id 0 for one that is not kept yet
 * @param period how far it reaches back, or ahead; null for as far back as the time before it was due
 * @param changedAt what was due before is not made up for
 */
public record Report(
    long id,
    String title,
    ReportKind kind,
    Selector scope,
    @Nullable Duration period,
    Set<Format> formats,
    When when,
    List<Delivery> deliveries,
    boolean active,
    Instant changedAt) {
  /** In which form tables are handed out; a pack and a head have their own. */
  enum Format implements Coded {
    HTML,
    CSV,
    JSON
  }

  /** By which way it goes. */
  public enum How implements Coded {
    FOLDER,
    MAIL,
    WEBHOOK
  }

  /** One of those that it goes to. */
  record Delivery(How how, String recipient) {}

  /**
   * When it is due.
   *
   * @param rule RFC 5545
   * @param starts where counting begins
   */
  record When(String rule, String zone, Instant starts) {
    RfcRecurrence recurrence() {
      return RfcRecurrence.of(rule, zone, starts);
    }
  }

  private static final List<Duration> LOOK_BACK =
      List.of(Duration.ofDays(2), Duration.ofDays(40), Duration.ofDays(400), Duration.ofDays(4000));

  /** Where nobody can say when it was due before. */
  private static final Duration A_DAY = Duration.ofDays(1);

  /** The last time that it was due after an instant, by now; empty where it was not. Earlier ones are passed over. */
  Optional<Instant> due(Instant after, Instant now) {
    Instant due = null;
    Iterator<Instant> starts = when.recurrence().startsAfter(after);
    while (starts.hasNext()) {
      Instant next = starts.next();
      if (next.isAfter(now)) {
        break;
      }
      due = next;
    }
    return Optional.ofNullable(due);
  }

  /** Since when it tells, where it tells of what was: since it was due the time before. */
  Instant from(Instant asAt) {
    if (period != null) {
      return asAt.minus(period);
    }
    return before(when.recurrence(), asAt)
        // The first one: as if it had been asked for long ago.
        .or(() -> before(
            RfcRecurrence.of(when.rule(), when.zone(), when.starts().minus(LOOK_BACK.get(2))),
            asAt))
        .orElse(asAt.minus(A_DAY));
  }

  private static Optional<Instant> before(RfcRecurrence recurrence, Instant due) {
    for (Duration back : LOOK_BACK) {
      Instant last = null;
      Iterator<Instant> starts = recurrence.startsAfter(due.minus(back));
      while (starts.hasNext()) {
        Instant next = starts.next();
        if (!next.isBefore(due)) {
          break;
        }
        last = next;
      }
      if (last != null) {
        return Optional.of(last);
      }
    }
    return Optional.empty();
  }
}
