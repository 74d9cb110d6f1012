package hardproof.core.programmes;

import hardproof.core.schedule.HoursOfDay;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import org.jspecify.annotations.Nullable;

/**
 * What there is to drill with.
 *
 * @param hours in which programmes may drill; null for all day
 * @param zone whose hours and days these are
 * @param atOnce drills that may go on at once; 0 where programmes may start none
 * @param atOncePerStore the same, from one store; null where nothing bounds it
 * @param sandboxBytes that all drills together may take; null where only the disk bounds it
 */
public record Capacity(
    @Nullable HoursOfDay hours,
    ZoneId zone,
    int atOnce,
    @Nullable Integer atOncePerStore,
    @Nullable Long sandboxBytes,
    Prices prices) {
  /** More at once than this no machine of ours can be asked for. */
  public static final int AT_ONCE_AT_MOST = 16;

  /**
   * What drills cost, in a currency of the user's own.
   *
   * @param perDrill for each
   * @param perGbDay for each 10⁹ restored bytes and each day that they are held; a part of a day counts as one
   */
  public record Prices(double perDrill, double perGbDay) {
    private static final double GB = 1e9;

    /** Drills cost nothing. */
    public static final Prices NONE = new Prices(0, 0);

    public Prices {
      if (!(perDrill >= 0 && perGbDay >= 0 && perDrill < 1e9 && perGbDay < 1e9)) {
        throw new WrongValue("a price is less than nothing, or beyond 1,000,000,000");
      }
    }

    /** Drills × price for each + GB restored × price for each × days held (DOMAIN: "Cost"). */
    public double of(long restoredBytes, Duration hold) {
      double days = Math.max(1, Math.ceil(hold.toMillis() / 86_400_000.0));
      return perDrill + restoredBytes / GB * perGbDay * days;
    }
  }

  /** Two at once at any hour, and nothing costs anything. */
  public static Capacity usual() {
    return new Capacity(null, ZoneId.of("UTC"), 2, null, null, Prices.NONE);
  }

  /**
   * @throws WrongValue where a bound is none
   */
  public Capacity {
    if (atOnce < 0 || atOnce > AT_ONCE_AT_MOST) {
      throw new WrongValue("drills at once are from 0 to " + AT_ONCE_AT_MOST + ", not " + atOnce);
    }
    if (atOncePerStore != null && atOncePerStore < 1) {
      throw new WrongValue("drills at once from one store are at least 1, or not bounded");
    }
    if (sandboxBytes != null && sandboxBytes < 1) {
      throw new WrongValue("room for sandboxes is at least a byte, or not bounded");
    }
  }

  /** The night that holds {@code at}, or else the next one; where all day is open, the day. */
  public HoursOfDay.Open night(Instant at) {
    return night(at, hours);
  }

  /** The same by the hours of a programme, where it has its own. */
  HoursOfDay.Open night(Instant at, @Nullable HoursOfDay own) {
    HoursOfDay which = own == null ? hours : own;
    if (which != null) {
      return which.atOrAfter(at, zone);
    }
    LocalDate day = at.atZone(zone).toLocalDate();
    return new HoursOfDay.Open(
        day.atStartOfDay(zone).toInstant(), day.plusDays(1).atStartOfDay(zone).toInstant());
  }

  /** The beginning of the month that holds {@code at}. */
  public Instant month(Instant at) {
    return at.atZone(zone).toLocalDate().withDayOfMonth(1).atStartOfDay(zone).toInstant();
  }

  /** The same with other bounds on what goes on at once, for trying what that would change. */
  public Capacity with(int otherAtOnce) {
    return new Capacity(hours, zone, otherAtOnce, atOncePerStore, sandboxBytes, prices);
  }

  /** The same with other hours. */
  public Capacity with(@Nullable HoursOfDay otherHours) {
    return new Capacity(otherHours, zone, atOnce, atOncePerStore, sandboxBytes, prices);
  }

  /** The same with other room. */
  public Capacity withRoom(@Nullable Long otherBytes) {
    return new Capacity(hours, zone, atOnce, atOncePerStore, otherBytes, prices);
  }
}
