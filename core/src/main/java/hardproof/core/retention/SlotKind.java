package hardproof.core.retention;

import hardproof.core.wording.Coded;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.time.temporal.IsoFields;
import java.time.temporal.TemporalAdjusters;
import java.util.Locale;

/** The calendar units a retention rule asks a point of. Weeks are those of ISO 8601. */
enum SlotKind implements Coded {
  DAY(ChronoUnit.DAYS),
  WEEK(ChronoUnit.WEEKS),
  MONTH(ChronoUnit.MONTHS),
  YEAR(ChronoUnit.YEARS);

  private final ChronoUnit unit;

  SlotKind(ChronoUnit unit) {
    this.unit = unit;
  }

  /** First day of the slot that {@code day} lies in. */
  LocalDate first(LocalDate day) {
    return switch (this) {
      case DAY -> day;
      case WEEK -> day.minusDays(day.getDayOfWeek().getValue() - 1L);
      case MONTH -> day.withDayOfMonth(1);
      case YEAR -> day.with(TemporalAdjusters.firstDayOfYear());
    };
  }

  LocalDate plus(LocalDate first, long slots) {
    return first.plus(slots, unit);
  }

  String label(LocalDate first) {
    return switch (this) {
      case DAY -> first.toString();
      case WEEK ->
        String.format(
            Locale.ROOT,
            "%d-W%02d",
            first.get(IsoFields.WEEK_BASED_YEAR),
            first.get(IsoFields.WEEK_OF_WEEK_BASED_YEAR));
      case MONTH -> first.toString().substring(0, 7);
      case YEAR -> first.toString().substring(0, 4);
    };
  }
}
