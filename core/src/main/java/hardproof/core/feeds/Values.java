package hardproof.core.feeds;

import hardproof.core.wording.WrongValue;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.YearMonth;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The kinds of value a bundle may hold. Every method throws {@link WrongValue} with a
 * reason that says what was expected.
 */
public final class Values {
  private static final Pattern SHORT_DURATION = Pattern.compile("(\\d{1,9})\\s*([smhdw])");
  private static final Pattern SIZE = Pattern.compile("(\\d+(?:\\.\\d+)?)\\s*([kKMGT]i?)?B?");
  /** Longer periods than any that are kept: a century. */
  public static final Duration LONGEST = Duration.ofDays(36_525);

  /** 100 PB: sums of many still fit into a number of 64 bits. */
  private static final long LARGEST_BYTES = 100_000_000_000_000_000L;

  /** Digits of any number, its unit and a decimal point. */
  private static final int LONGEST_NUMBER = 40;

  private static final Pattern PLAIN_NUMBER = Pattern.compile("\\d+");
  private static final Pattern SHA256 = Pattern.compile("[0-9a-f]{64}");

  private Values() {}

  /** RFC 3339 with an offset. */
  public static Instant time(String text) {
    Instant plain = plainUtc(text);
    if (plain != null) {
      return plain;
    }
    try {
      return OffsetDateTime.parse(text.replace(' ', 'T')).toInstant();
    } catch (DateTimeParseException e) {
      if (looksLocal(text)) {
        throw new WrongValue("is a time without an offset; add Z or an offset such as +01:00", e);
      }
      throw new WrongValue("is not a time; write it as 2026-11-24T03:10:00Z", e);
    }
  }

  /**
   * {@code 2026-11-24T03:10:00Z} without the general parser, which takes most of the time of reading a
   * large file; null for anything else, right or wrong.
   */
  private static Instant plainUtc(String text) {
    if (differsInShape(text)) {
      return null;
    }
    return usualTime(text);
  }

  private static boolean differsInShape(String text) {
    return text.length() != 20
        || text.charAt(19) != 'Z'
        || text.charAt(10) != 'T'
        || text.charAt(4) != '-'
        || text.charAt(7) != '-'
        || text.charAt(13) != ':'
        || text.charAt(16) != ':';
  }

  private static Instant usualTime(String text) {
    int year = digits(text, 0, 4);
    int month = digits(text, 5, 2);
    int day = digits(text, 8, 2);
    int hour = digits(text, 11, 2);
    int minute = digits(text, 14, 2);
    int second = digits(text, 17, 2);
    boolean usual = year >= 1970
        && month >= 1
        && month <= 12
        && day >= 1
        && (day <= 28 || day <= YearMonth.of(year, month).lengthOfMonth())
        && hour >= 0
        && hour <= 23
        && minute >= 0
        && minute <= 59
        && second >= 0
        && second <= 59;
    if (!usual) {
      // Everything odd is for the general parser.
      return null;
    }
    return Instant.ofEpochSecond(LocalDate.of(year, month, day).toEpochDay() * 86_400L
        + hour * 3_600L
        + minute * 60L
        + second);
  }

  /** -1 where there are other characters. */
  private static int digits(String text, int from, int count) {
    int number = 0;
    for (int i = from; i < from + count; i++) {
      int digit = text.charAt(i) - '0';
      if (digit < 0 || digit > 9) {
        return -1;
      }
      number = number * 10 + digit;
    }
    return number;
  }

  private static boolean looksLocal(String text) {
    try {
      LocalDateTime.parse(text.replace(' ', 'T'));
      return true;
    } catch (DateTimeParseException e) {
      return false;
    }
  }

  /**
   * ISO 8601 ({@code PT4H}, {@code P14D}) or short ({@code 4h}, {@code 14d}); a day is 24 h. Whole
   * milliseconds, at most {@link #LONGEST}.
   */
  public static Duration duration(String text) {
    Duration duration = anyDuration(text);
    if (duration.compareTo(LONGEST) > 0) {
      throw new WrongValue("is longer than a century");
    }
    if (!duration.isZero() && duration.toMillis() == 0) {
      throw new WrongValue("is shorter than a millisecond");
    }
    return Duration.ofMillis(duration.toMillis());
  }

  private static Duration anyDuration(String text) {
    if (text.length() > LONGEST_NUMBER) {
      throw new WrongValue("is not a duration; write it as PT4H, P14D, 4h or 14d");
    }
    Matcher matcher = SHORT_DURATION.matcher(text.toLowerCase(Locale.ROOT));
    if (matcher.matches()) {
      return shortDuration(matcher);
    }
    try {
      return isoDuration(text);
    } catch (DateTimeParseException | ArithmeticException e) {
      throw new WrongValue("is not a duration; write it as PT4H, P14D, 4h or 14d", e);
    }
  }

  private static Duration shortDuration(Matcher matcher) {
    long number = Long.parseLong(matcher.group(1));
    return switch (matcher.group(2)) {
      case "s" -> Duration.ofSeconds(number);
      case "m" -> Duration.ofMinutes(number);
      case "h" -> Duration.ofHours(number);
      case "d" -> Duration.ofDays(number);
      default -> Duration.ofDays(7 * number);
    };
  }

  private static Duration isoDuration(String text) {
    Duration duration = Duration.parse(text);
    if (duration.isNegative()) {
      throw new WrongValue("is negative");
    }
    return duration;
  }

  /** Bytes, or a number with kB MB GB TB (powers of 1000) or KiB MiB GiB TiB (powers of 1024). */
  public static long size(String text) {
    if (text.length() <= 17 && PLAIN_NUMBER.matcher(text).matches()) {
      return Long.parseLong(text);
    }
    Matcher matcher = SIZE.matcher(text);
    if (text.length() > LONGEST_NUMBER || !matcher.matches()) {
      throw new WrongValue(
          text.startsWith("-") ? "is negative" : "is not a size; write bytes, or 12 GB, or 12 GiB");
    }
    String unit = matcher.group(2) == null ? "" : matcher.group(2);
    long base = unit.endsWith("i") ? 1024 : 1000;
    int power = unit.isEmpty() ? 0 : 1 + "KMGT".indexOf(Character.toUpperCase(unit.charAt(0)));
    try {
      long size = new BigDecimal(matcher.group(1))
          .multiply(BigDecimal.valueOf(base).pow(power))
          .toBigInteger()
          .longValueExact();
      if (size <= LARGEST_BYTES) {
        return size;
      }
    } catch (ArithmeticException e) {
      // Said below.
    }
    throw new WrongValue("is larger than any store: more than 100 PB");
  }

  /** A whole number within bounds, both inclusive. */
  public static int wholeNumber(String text, int least, int most) {
    try {
      int number = Integer.parseInt(text.trim());
      if (number >= least && number <= most) {
        return number;
      }
    } catch (NumberFormatException e) {
      // said below
    }
    throw new WrongValue("is not a whole number from " + least + " to " + most);
  }

  /** true/false, yes/no, 1/0. */
  public static boolean yesNo(String text) {
    return switch (text.toLowerCase(Locale.ROOT)) {
      case "true", "yes", "1" -> true;
      case "false", "no", "0" -> false;
      default -> throw new WrongValue("is neither yes nor no; use true/false, yes/no or 1/0");
    };
  }

  /** Items between semicolons; empty ones are dropped. */
  public static List<String> list(String text) {
    return Arrays.stream(text.split(";"))
        .map(String::trim)
        .filter(s -> !s.isEmpty())
        .toList();
  }

  /** {@code name=value} between semicolons. */
  public static Map<String, String> tags(String text) {
    Map<String, String> tags = new LinkedHashMap<>();
    for (String item : list(text)) {
      int equals = item.indexOf('=');
      if (equals < 1) {
        throw new WrongValue("is not a list of name=value: '" + item + "'");
      }
      if (tags.put(item.substring(0, equals).trim(), item.substring(equals + 1).trim()) != null) {
        throw new WrongValue("has the tag '" + item.substring(0, equals) + "' twice");
      }
    }
    return tags;
  }

  /** {@code store:deadline} between semicolons. */
  public static List<Map.Entry<String, Duration>> deadlines(String text) {
    List<Map.Entry<String, Duration>> targets = new ArrayList<>();
    for (String item : list(text)) {
      int colon = item.lastIndexOf(':');
      if (colon < 1) {
        throw new WrongValue("is not a list of store:deadline, such as holm:24h");
      }
      targets.add(Map.entry(
          item.substring(0, colon).trim(), duration(item.substring(colon + 1).trim())));
    }
    return targets;
  }

  /** 64 hexadecimal digits, given back in lower case. */
  public static String sha256(String text) {
    String lower = text.toLowerCase(Locale.ROOT);
    if (!SHA256.matcher(lower).matches()) {
      throw new WrongValue("is not a SHA-256: 64 hexadecimal digits");
    }
    return lower;
  }

  /** A relative path that stays below its store. */
  public static String place(String text) {
    String path = text.replace('\\', '/');
    if (path.startsWith("/") || path.matches("^[A-Za-z]:.*")) {
      throw new WrongValue("is an absolute path; give it relative to the store's path");
    }
    if (Arrays.asList(path.split("/")).contains("..")) {
      throw new WrongValue("leaves its store ('..' in the path)");
    }
    return path;
  }
}
