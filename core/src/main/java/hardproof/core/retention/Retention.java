package hardproof.core.retention;

import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * How long a policy keeps its points: the last N, all of the last D days, and with the long-tail rule
 * one for each of the last W weeks, M months and Y years. A point is kept while any part asks for it.
 * Null means that the part is not there.
 *
 * @param keepFor a length of time; a day of it is 24 hours
 */
public record Retention(
    Integer last, Duration keepFor, Integer weekly, Integer monthly, Integer yearly) {
  public static final Retention NONE = new Retention(null, null, null, null, null);

  public boolean stated() {
    return Stream.of(last, keepFor, weekly, monthly, yearly).anyMatch(Objects::nonNull);
  }

  /**
   * How far back the rule reaches if everything is made as planned (common practice): points kept ×
   * interval, the days that are kept whole, and the slots of the long tail; the farthest counts.
   * Null when nothing is stated, or the interval is needed and not known.
   *
   * @param interval the longest gap between starts; null when not known
   */
  public Duration reachOnPaper(Duration interval) {
    return Stream.of(
            last == null || interval == null ? null : interval.multipliedBy(last),
            keepFor,
            weekly == null ? null : Duration.ofDays(7L * weekly),
            monthly == null ? null : Duration.ofDays(30L * monthly),
            yearly == null ? null : Duration.ofDays(365L * yearly))
        .filter(Objects::nonNull)
        .max(Comparator.naturalOrder())
        .orElse(null);
  }

  /**
   * The same, reaching at least so far: more of the last points where it is known how often they are made, else all of
   * as many days.
   *
   * @param interval the longest gap between starts; null when not known
   */
  public Retention reaching(Duration reach, Duration interval) {
    Duration now = reachOnPaper(interval);
    if (now != null && now.compareTo(reach) >= 0) {
      return this;
    } else if (interval == null || interval.isZero() || interval.isNegative()) {
      return new Retention(last, reach, weekly, monthly, yearly);
    }
    long points = (reach.toMillis() + interval.toMillis() - 1) / interval.toMillis();
    return new Retention(
        (int) Math.min(points, Integer.MAX_VALUE), keepFor, weekly, monthly, yearly);
  }

  /**
   * Separate fulls that the long tail needs where no two slots fall on one point and storage does not
   * share blocks (common practice): weekly + monthly + yearly.
   */
  public int longTailFulls() {
    return orZero(weekly) + orZero(monthly) + orZero(yearly);
  }

  private static int orZero(Integer number) {
    return number == null ? 0 : number;
  }

  /** As {@link #slots(Instant, ZoneId, long[])} where no point is known. */
  public List<Slot> slots(Instant asAt, ZoneId zone) {
    return slots(asAt, zone, new long[0]);
  }

  /**
   * The slots that the rule can have filled by now, oldest first: the most recent days, weeks, months and
   * years. The running one is among them when it holds a point; else counting begins with the one before, as
   * its point may still come.
   *
   * @param zone whose calendar it is
   * @param dataTimes in epoch milliseconds, ascending
   */
  public List<Slot> slots(Instant asAt, ZoneId zone, long[] dataTimes) {
    List<Slot> slots = new ArrayList<>();
    int days = keepFor == null ? 0 : (int) Math.min(keepFor.toDays(), 3660);
    addSlots(slots, SlotKind.DAY, days, asAt, zone, dataTimes);
    if (keepFor != null) {
      // Of a day that has begun to leave the stretch, the point may be gone as promised.
      slots.removeIf(day -> day.from().isBefore(asAt.minus(keepFor)));
    }
    addSlots(slots, SlotKind.WEEK, orZero(weekly), asAt, zone, dataTimes);
    addSlots(slots, SlotKind.MONTH, orZero(monthly), asAt, zone, dataTimes);
    addSlots(slots, SlotKind.YEAR, orZero(yearly), asAt, zone, dataTimes);
    slots.sort(Comparator.comparing(Slot::from).thenComparing(Slot::kind));
    return slots;
  }

  private static void addSlots(
      List<Slot> slots, SlotKind kind, int count, Instant asAt, ZoneId zone, long[] dataTimes) {
    LocalDate now = kind.first(asAt.atZone(zone).toLocalDate());
    int newest = holds(slot(kind, now, zone), dataTimes) ? 0 : 1;
    for (int i = newest; i < newest + count; i++) {
      slots.add(slot(kind, kind.plus(now, -i), zone));
    }
  }

  private static Slot slot(SlotKind kind, LocalDate first, ZoneId zone) {
    return new Slot(
        kind,
        first.atStartOfDay(zone).toInstant(),
        kind.plus(first, 1).atStartOfDay(zone).toInstant(),
        kind.label(first));
  }

  private static boolean holds(Slot slot, long[] dataTimes) {
    int found = Arrays.binarySearch(dataTimes, slot.from().toEpochMilli());
    int first = found >= 0 ? found : -found - 1;
    return first < dataTimes.length && dataTimes[first] < slot.until().toEpochMilli();
  }

  /**
   * Slots that begin after {@code since} and hold none of the data times.
   *
   * @param dataTimes in epoch milliseconds, ascending
   */
  public static List<Slot> missing(List<Slot> slots, long[] dataTimes, Instant since) {
    return slots.stream()
        .filter(s -> since == null || !s.from().isBefore(since))
        .filter(s -> !holds(s, dataTimes))
        .toList();
  }

  /**
   * The least number of the points that serves every slot that can be served, when one point may
   * serve several. Taking slots by their end and for each that is not served yet its newest point is
   * best (stabbing intervals with points, a standard greedy argument).
   */
  public static int pointsNeeded(List<Slot> slots, Collection<Instant> dataTimes) {
    TreeSet<Instant> times = new TreeSet<>(dataTimes);
    List<Slot> byEnd = new ArrayList<>(slots);
    byEnd.sort(Comparator.comparing(Slot::until));
    int needed = 0;
    Instant chosen = null;
    for (Slot slot : byEnd) {
      if (chosen != null && slot.holds(chosen)) {
        continue;
      }
      Instant newest = times.lower(slot.until());
      if (newest != null && !newest.isBefore(slot.from())) {
        chosen = newest;
        needed++;
      }
    }
    return needed;
  }

  /**
   * When each point leaves under this rule if new points go on coming every {@code interval}.
   *
   * @param dataTimes newest first
   * @return the instants in the same order; null where the rule never lets it go
   */
  public List<Instant> leaves(
      List<Instant> dataTimes, Duration interval, Instant asAt, ZoneId zone) {
    List<Instant> leaves = new ArrayList<>();
    for (int rank = 0; rank < dataTimes.size(); rank++) {
      Instant data = dataTimes.get(rank);
      Instant newer = rank == 0 ? null : dataTimes.get(rank - 1);
      leaves.add(Stream.of(
              last == null || interval == null
                  ? null
                  : asAt.plus(interval.multipliedBy(Math.max(0, last - rank))),
              keepFor == null ? null : data.plus(keepFor),
              servesUntil(SlotKind.WEEK, weekly, data, newer, zone, dataTimes, interval),
              servesUntil(SlotKind.MONTH, monthly, data, newer, zone, dataTimes, interval),
              servesUntil(SlotKind.YEAR, yearly, data, newer, zone, dataTimes, interval))
          .filter(Objects::nonNull)
          .max(Comparator.naturalOrder())
          .orElse(null));
    }
    return leaves;
  }

  /**
   * The newest point of a slot stands for it, as long as the slot is asked for: until as many later ones hold
   * a point of their own.
   */
  private static Instant servesUntil(
      SlotKind kind,
      Integer count,
      Instant data,
      Instant newer,
      ZoneId zone,
      List<Instant> newestFirst,
      Duration interval) {
    if (count == null || count == 0) {
      return null;
    }
    LocalDate first = kind.first(data.atZone(zone).toLocalDate());
    if (newer != null && kind.first(newer.atZone(zone).toLocalDate()).equals(first)) {
      return null;
    }
    Instant begins = kind.plus(first, count).atStartOfDay(zone).toInstant();
    return firstFrom(begins, newestFirst, interval);
  }

  /** When the first point at or after an instant is made, of those there are and those that will come. */
  private static Instant firstFrom(Instant begins, List<Instant> newestFirst, Duration interval) {
    Instant newest = newestFirst.get(0);
    if (!newest.isBefore(begins)) {
      return oldestFrom(begins, newestFirst, newest);
    }
    if (interval == null || interval.isZero()) {
      return begins;
    }
    long step = interval.toMillis();
    long gap = Duration.between(newest, begins).toMillis();
    return newest.plusMillis((gap + step - 1) / step * step);
  }

  private static Instant oldestFrom(Instant begins, List<Instant> newestFirst, Instant newest) {
    Instant found = newest;
    for (Instant data : newestFirst) {
      found = data.isBefore(begins) ? found : data;
    }
    return found;
  }

  /** How far back what is left would reach on a day to come; null when nothing would be left. */
  public static Duration reachOn(Instant day, List<Instant> dataTimes, List<Instant> leaves) {
    Instant oldest = null;
    for (int i = 0; i < dataTimes.size(); i++) {
      boolean there = leaves.get(i) == null || leaves.get(i).isAfter(day);
      if (there && (oldest == null || dataTimes.get(i).isBefore(oldest))) {
        oldest = dataTimes.get(i);
      }
    }
    return oldest == null ? null : Duration.between(oldest, day);
  }

  /** {@code the last 14, all of 14 d, 4 weekly, 12 monthly}. */
  public String words() {
    List<String> parts = new ArrayList<>();
    if (last != null) {
      parts.add("the last " + last);
    }
    if (keepFor != null) {
      parts.add("all of " + Wording.duration(keepFor));
    }
    if (weekly != null) {
      parts.add(weekly + " weekly");
    }
    if (monthly != null) {
      parts.add(monthly + " monthly");
    }
    if (yearly != null) {
      parts.add(yearly + " yearly");
    }
    return parts.isEmpty() ? "nothing stated" : String.join(", ", parts);
  }
}
