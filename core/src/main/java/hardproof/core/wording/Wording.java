package hardproof.core.wording;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;

/**
 * How figures are put into sentences. One place, so that the screen, the command line and the pack
 * read the same. All times are UTC; every sentence is English.
 */
public final class Wording {
  private static final DateTimeFormatter FOUR_DIGITS =
      DateTimeFormatter.ofPattern("yyyy", Locale.ENGLISH);
  private static final String[] MONTHS = {
    "Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"
  };
  private static final String[] BYTE_UNITS = {"B", "kB", "MB", "GB", "TB", "PB"};

  private static final long MINUTE_MS = 60_000;
  private static final long HOUR_MS = 60 * MINUTE_MS;
  private static final long DAY_MS = 24 * HOUR_MS;

  private Wording() {}

  /**
   * A duration in at most two units, truncated (never rounded up, so that nothing reads as longer
   * than it is): {@code 45 s}, {@code 22 m}, {@code 6 h 30 m}, {@code 4 d 02 h}. A negative
   * duration gets a leading minus.
   */
  public static String duration(Duration duration) {
    if (duration.isNegative()) {
      return "-" + duration(duration.negated());
    }
    long seconds = duration.toSeconds();
    if (seconds < 60) {
      return seconds == 0 && duration.toMillis() > 0 ? duration.toMillis() + " ms" : seconds + " s";
    }
    long minutes = seconds / 60;
    if (minutes < 60) {
      return minutes(seconds, minutes);
    }
    return hoursOrDays(minutes);
  }

  private static String minutes(long seconds, long minutes) {
    return seconds % 60 == 0 || minutes >= 10
        ? minutes + " m"
        : minutes + " m " + two(seconds % 60) + " s";
  }

  private static String hoursOrDays(long minutes) {
    long hours = minutes / 60;
    if (hours < 48) {
      return minutes % 60 == 0 ? hours + " h" : hours + " h " + two(minutes % 60) + " m";
    }
    long days = hours / 24;
    return hours % 24 == 0 ? days + " d" : days + " d " + two(hours % 24) + " h";
  }

  /**
   * A duration as people type it and {@link hardproof.core.feeds.Values#duration} reads it back, exactly:
   * {@code 30d}, {@code 24h}, {@code 90m}; ISO 8601 where none of these is exact.
   */
  public static String typed(Duration duration) {
    long millis = duration.toMillis();
    if (millis >= 3 * DAY_MS && millis % DAY_MS == 0) {
      return millis / DAY_MS + "d";
    } else if (millis > 0 && millis % HOUR_MS == 0) {
      return millis / HOUR_MS + "h";
    } else if (millis > 0 && millis % MINUTE_MS == 0) {
      return millis / MINUTE_MS + "m";
    }
    return duration.toString();
  }

  private static String two(long value) {
    return value < 10 ? "0" + value : Long.toString(value);
  }

  /** An instant as {@code 24 Nov 03:10}, with the year when it is not the year of {@code asAt}. */
  public static String time(Instant instant, Instant asAt) {
    LocalDateTime at = utc(instant);
    // Put together here: a formatter takes ten times as long, and there are hundreds in each
    // resource's sentences.
    return at.getDayOfMonth() + " " + MONTHS[at.getMonthValue() - 1]
        + (at.getYear() == utc(asAt).getYear() ? "" : " " + FOUR_DIGITS.format(at)) + " "
        + two(at.getHour()) + ":" + two(at.getMinute());
  }

  private static LocalDateTime utc(Instant instant) {
    return LocalDateTime.ofEpochSecond(instant.getEpochSecond(), 0, ZoneOffset.UTC);
  }

  /** A number of bytes with a decimal unit (powers of 1000), three significant figures. */
  public static String bytes(long bytes) {
    double value = bytes;
    int unit = 0;
    while (Math.abs(value) >= 999.5 && unit < BYTE_UNITS.length - 1) {
      value /= 1000;
      unit++;
    }
    String digits =
        unit == 0 ? Long.toString(bytes) : fixed(value, value < 9.995 ? 2 : value < 99.95 ? 1 : 0);
    return digits + " " + BYTE_UNITS[unit];
  }

  /** A share between 0 and 1 as per cent with two decimals, truncated: 99.996 % is not 100 %. */
  public static String share(double share) {
    return fixed(Math.floor(share * 10000) / 100, 2) + " %";
  }

  /** With so many decimals, as {@link java.util.Formatter} rounds, at a tenth of its time. */
  public static String fixed(double value, int decimals) {
    return !Double.isFinite(value)
        ? Double.toString(value)
        : BigDecimal.valueOf(value).setScale(decimals, RoundingMode.HALF_UP).toPlainString();
  }

  /** {@code 1 copy}, {@code 2 copies}. */
  public static String count(long count, String one, String many) {
    return count + " " + (count == 1 ? one : many);
  }

  /** {@code a}, {@code a and b}, {@code a, b and c}. */
  public static String list(List<String> items) {
    if (items.size() < 2) {
      return String.join("", items);
    }
    return String.join(", ", items.subList(0, items.size() - 1)) + " and "
        + items.get(items.size() - 1);
  }
}
