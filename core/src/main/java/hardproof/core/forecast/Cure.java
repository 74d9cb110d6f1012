package hardproof.core.forecast;

import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.programmes.Showing;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.wording.Coded;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.UnaryOperator;

/**
 * Something that might prevent lapses, as it came out when it was tried.
 *
 * @param what would be done, for people
 * @param fewer times in which a proof is missing that would not be; never negative
 * @param missing how long proofs would be missing then, added up
 * @param helps whether fewer proofs are missing, or all of them for a twentieth less
 */
public record Cure(String what, int fewer, Duration missing, boolean helps) {
  /** What can be tried. */
  public enum Way implements Coded {
    AT_ONCE,
    HOURS,
    ROOM,
    LEAST_WORK,
    ANY_COPY,
    AS_NEEDED
  }

  /** A part of all that would be missing, one in so many, is worth saying. */
  private static final int ONE_IN = 20;

  /**
   * What comes of it; empty where there is nothing to try: no proof is missing, or there is no such bound.
   *
   * @param given looks ahead by other programmes
   * @param programmes as they are
   */
  public static Optional<Cure> tried(
      Way way,
      Function<List<ProgrammeTerms>, Forecaster> given,
      List<ProgrammeTerms> programmes,
      Capacity capacity,
      Duration ahead) {
    Forecaster now = given.apply(programmes);
    Forecast before = now.forecast(capacity, ahead);
    if (before.gaps().isEmpty()) {
      return Optional.empty();
    }
    return switch (way) {
      case AT_ONCE, HOURS, ROOM ->
        more(way, capacity).map(c -> of(words(way, c), before, now.forecast(c, ahead)));
      case LEAST_WORK, ANY_COPY, AS_NEEDED -> {
        List<ProgrammeTerms> others = programmes.stream().map(other(way)).toList();
        yield Optional.of(
            of(words(way, capacity), before, given.apply(others).forecast(capacity, ahead)));
      }
    };
  }

  /** Empty where there is no more of it. */
  private static Optional<Capacity> more(Way way, Capacity capacity) {
    return switch (way) {
      case AT_ONCE ->
        capacity.atOnce() < Capacity.AT_ONCE_AT_MOST
            ? Optional.of(capacity.with(capacity.atOnce() + 1))
            : Optional.empty();
      case HOURS -> Optional.ofNullable(capacity.hours()).map(h -> capacity.with(hourMore(h)));
      default ->
        Optional.ofNullable(capacity.sandboxBytes())
            .map(b -> capacity.withRoom(2 * Math.min(b, Long.MAX_VALUE / 4)));
    };
  }

  private static UnaryOperator<ProgrammeTerms> other(Way way) {
    return switch (way) {
      case LEAST_WORK -> p -> p.showing(Showing.DEMANDED);
      case ANY_COPY -> p -> p.copy(new CopyChoice(CopyChoice.Way.ANY, null));
      default -> ProgrammeTerms::drillingAsNeeded;
    };
  }

  private static String words(Way way, Capacity then) {
    return switch (way) {
      case AT_ONCE -> "one more drill at once (" + then.atOnce() + ")";
      case HOURS -> "one hour more a night (" + then.hours().text() + ")";
      case ROOM -> "twice the room for sandboxes (" + Wording.bytes(then.sandboxBytes()) + ")";
      case LEAST_WORK -> "drilling by the least that each tier demands";
      case ANY_COPY -> "drilling from any copy that can be read";
      case AS_NEEDED -> "drilling as needed instead of by rules";
    };
  }

  /** An hour more, where the day has one; the hours may then begin and end at the same time of day. */
  private static HoursOfDay hourMore(HoursOfDay hours) {
    var until = hours.until().plusHours(1);
    return until.equals(hours.from())
        ? new HoursOfDay(hours.from(), until.minusMinutes(1))
        : new HoursOfDay(hours.from(), until);
  }

  private static Cure of(String what, Forecast before, Forecast after) {
    int fewer = before.gaps().size() - after.gaps().size();
    Duration gained = before.missing().minus(after.missing());
    boolean helps = fewer > 0 || gained.compareTo(before.missing().dividedBy(ONE_IN)) > 0;
    return new Cure(what, Math.max(0, fewer), after.missing(), helps);
  }
}
