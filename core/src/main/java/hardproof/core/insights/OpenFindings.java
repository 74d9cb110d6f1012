package hardproof.core.insights;

import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Findings over a period.
 *
 * @param atStart that were open when the period began
 * @param opened in it; likewise {@code closed}
 * @param atEnd that are still open
 * @param meanToFix mean time from opening to closing of those that closed; null when none did
 */
public record OpenFindings(
    int atStart,
    int opened,
    int closed,
    int atEnd,
    @Nullable Duration meanToFix) {

  static OpenFindings of(List<Stretch> stretches, Period period) {
    int atStart = 0;
    int opened = 0;
    int closed = 0;
    int atEnd = 0;
    long toFix = 0;
    for (Stretch stretch : stretches) {
      boolean inside = period.holds(stretch.opened());
      boolean ended = stretch.closed() != null && !stretch.closed().isAfter(period.to());
      opened += inside ? 1 : 0;
      atStart += inside || stretch.opened().isAfter(period.to()) ? 0 : 1;
      atEnd += ended ? 0 : 1;
      if (ended) {
        closed++;
        toFix += Duration.between(stretch.opened(), stretch.closed()).toMillis();
      }
    }
    Duration mean = closed == 0 ? null : Duration.ofMillis(toFix / closed);
    return new OpenFindings(atStart, opened, closed, atEnd, mean);
  }
}
