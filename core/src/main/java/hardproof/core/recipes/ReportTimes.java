package hardproof.core.recipes;

import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;

/** How the times of a report are read, all of its columns of times together, as far as they are written alike. */
final class ReportTimes {
  private static final String WITH_OFFSET = ".*(Z|[+-]\\d{2}:?\\d{2})$";

  private ReportTimes() {}

  /**
   * @param columns that are times
   * @param zone of those that don't say theirs
   * @param notes gets what was taken for granted
   */
  static TimeReading of(
      ReportTable table, Collection<String> columns, ZoneId zone, Instant now, List<String> notes) {
    List<String> values = new ArrayList<>();
    TimeGuess.Guessed guessed = null;
    for (String column : new LinkedHashSet<>(columns)) {
      List<String> more = new ArrayList<>(values);
      more.addAll(table.samples(column));
      TimeGuess.Guessed together = TimeGuess.of(more, zone, now);
      if (together != null) {
        guessed = together;
        values = more;
      } else {
        notes.add(column + " is not written as the other times are, and is not read.");
      }
    }
    if (guessed == null) {
      return new TimeReading(null, null);
    }
    TimeReading times = guessed.reading();
    if (guessed.other() != null) {
      notes.add("Times are read as " + times.pattern() + "; they could be "
          + guessed.other().pattern() + " as well.");
    }
    boolean sayAll = times.zone() == null
        || times.pattern() == null && values.stream().allMatch(v -> v.matches(WITH_OFFSET));
    if (sayAll) {
      return new TimeReading(null, times.pattern());
    }
    notes.add("Times say no zone: they are read as " + zone.getId() + ".");
    return times;
  }
}
