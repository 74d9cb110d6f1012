package hardproof.core.forecast;

import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.programmes.Showing;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.Function;
import java.util.function.UnaryOperator;

/**
 * Something that would prevent lapses, found by trying it.
 *
 * @param what would be done, for people
 * @param fewer times in which a proof is missing that would not be
 * @param missing how long proofs would be missing then, added up
 */
public record Cure(String what, int fewer, Duration missing) {
  /**
   * What of a few things would help, the most helpful first.
   *
   * @param given looks ahead by other programmes
   * @param programmes as they are
   */
  public static List<Cure> of(
      Function<List<ProgrammeTerms>, Forecaster> given,
      List<ProgrammeTerms> programmes,
      Capacity capacity,
      Duration ahead) {
    Forecaster now = given.apply(programmes);
    Forecast before = now.forecast(capacity, ahead);
    List<Cure> cures = new ArrayList<>();
    if (before.gaps().isEmpty()) {
      return cures;
    }
    byCapacity(cures, before, other -> now.forecast(other, ahead), capacity);
    byProgrammes(cures, before, other -> given.apply(other).forecast(capacity, ahead), programmes);
    cures.sort(Comparator.comparing(Cure::fewer)
        .reversed()
        .thenComparing(Cure::missing)
        .thenComparing(Cure::what));
    return cures;
  }

  private static void byCapacity(
      List<Cure> cures, Forecast before, Function<Capacity, Forecast> tried, Capacity capacity) {
    if (capacity.atOnce() < Capacity.AT_ONCE_AT_MOST) {
      int more = capacity.atOnce() + 1;
      add(cures, "one more drill at once (" + more + ")", before, tried.apply(capacity.with(more)));
    }
    if (capacity.hours() != null) {
      HoursOfDay longer = hourMore(capacity.hours());
      add(
          cures,
          "one hour more a night (" + longer.text() + ")",
          before,
          tried.apply(capacity.with(longer)));
    }
    if (capacity.sandboxBytes() != null) {
      long twice = 2 * Math.min(capacity.sandboxBytes(), Long.MAX_VALUE / 4);
      add(
          cures,
          "twice the room for sandboxes (" + Wording.bytes(twice) + ")",
          before,
          tried.apply(capacity.withRoom(twice)));
    }
  }

  private static void byProgrammes(
      List<Cure> cures,
      Forecast before,
      Function<List<ProgrammeTerms>, Forecast> tried,
      List<ProgrammeTerms> programmes) {
    add(
        cures,
        "drilling by the least that each tier demands",
        before,
        tried.apply(each(programmes, p -> p.showing(Showing.DEMANDED))));
    add(
        cures,
        "drilling from any copy that can be read",
        before,
        tried.apply(each(programmes, p -> p.copy(new CopyChoice(CopyChoice.Way.ANY, null)))));
    add(
        cures,
        "drilling as needed instead of by rules",
        before,
        tried.apply(each(programmes, ProgrammeTerms::drillingAsNeeded)));
  }

  private static List<ProgrammeTerms> each(
      List<ProgrammeTerms> programmes, UnaryOperator<ProgrammeTerms> change) {
    return programmes.stream().map(change).toList();
  }

  /** An hour more, where the day has one; the hours may then begin and end at the same time of day. */
  private static HoursOfDay hourMore(HoursOfDay hours) {
    var until = hours.until().plusHours(1);
    return until.equals(hours.from())
        ? new HoursOfDay(hours.from(), until.minusMinutes(1))
        : new HoursOfDay(hours.from(), until);
  }

  private static void add(List<Cure> cures, String what, Forecast before, Forecast after) {
    int fewer = before.gaps().size() - after.gaps().size();
    Duration gained = before.missing().minus(after.missing());
    if (fewer > 0 || gained.compareTo(before.missing().dividedBy(20)) > 0) {
      cures.add(new Cure(what, Math.max(0, fewer), after.missing()));
    }
  }
}
