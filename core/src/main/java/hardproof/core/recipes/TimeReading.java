package hardproof.core.recipes;

import hardproof.core.feeds.Values;
import hardproof.core.wording.WrongValue;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.temporal.ChronoField;
import java.time.temporal.TemporalAccessor;
import java.time.temporal.TemporalQueries;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;

/**
 * How somebody else's times are read.
 *
 * @param zone of times that are written without an offset; null where there are none
 * @param pattern as in java.time (dd.MM.yyyy HH:mm), {@code epoch-seconds} or {@code epoch-milliseconds}; null for RFC
 *     3339, and with a zone for local times that are written so
 */
public record TimeReading(@Nullable String zone, @Nullable String pattern) {
  static final String SECONDS = "epoch-seconds";
  static final String MILLISECONDS = "epoch-milliseconds";

  private static final int LONGEST = 100;
  private static final int MOST_KEPT = 1000;
  private static final Map<String, DateTimeFormatter> PATTERNS = new ConcurrentHashMap<>();

  /**
   * @throws WrongValue with what can't be right
   */
  public TimeReading {
    if (zone != null) {
      requireZone(zone);
    }
    if (pattern != null && pattern.startsWith("epoch-")) {
      if (!pattern.equals(SECONDS) && !pattern.equals(MILLISECONDS)) {
        throw new WrongValue("'" + pattern + "' is no way to write times; use a pattern, " + SECONDS
            + " or " + MILLISECONDS);
      }
    } else if (pattern != null) {
      if (zone == null && !saysOffset(pattern)) {
        throw new WrongValue(
            "times by the pattern '" + pattern + "' have no offset: say which zone they are in");
      }
      formatter(pattern);
    }
  }

  /** Whether times by a pattern need no zone. */
  static boolean saysOffset(String pattern) {
    return pattern.replaceAll("'[^']*'", "").matches(".*[xXzZOV].*");
  }

  private static void requireZone(String zone) {
    try {
      ZoneId.of(zone);
    } catch (DateTimeException e) {
      throw new WrongValue("'" + zone + "' is no time zone; write it as Europe/Oslo or UTC", e);
    }
  }

  private static DateTimeFormatter formatter(String pattern) {
    if (pattern.length() > LONGEST) {
      throw new WrongValue("a time pattern has at most " + LONGEST + " characters");
    }
    if (PATTERNS.size() > MOST_KEPT) {
      PATTERNS.clear(); // Patterns come from files too, by expressions.
    }
    try {
      return PATTERNS.computeIfAbsent(pattern, TimeReading::build);
    } catch (IllegalArgumentException e) {
      throw new WrongValue(
          "'" + pattern + "' is no time pattern (" + e.getMessage() + "); write it as"
              + " dd.MM.yyyy HH:mm",
          e);
    }
  }

  private static DateTimeFormatter build(String pattern) {
    DateTimeFormatterBuilder builder =
        new DateTimeFormatterBuilder().parseCaseInsensitive().appendPattern(pattern);
    if (!pattern.contains("[")) {
      builder.parseDefaulting(ChronoField.SECOND_OF_MINUTE, 0);
    }
    return builder.toFormatter(Locale.ENGLISH);
  }

  /** Whether it changes anything: else a time is read as all files of a bundle write it. */
  boolean says() {
    return zone != null || pattern != null;
  }

  /**
   * The instant of a text.
   *
   * <p>A local time that a clock change leaves out is refused: it can't have been. One that comes twice is taken as the
   * earlier of the two: data is then called older than it may be, never younger.
   *
   * @throws WrongValue where it is none
   */
  public Instant instant(String value) {
    // Some write tenths of a nanosecond, which no clock has.
    String text = value.strip().replaceFirst("(\\.\\d{9})\\d+", "$1");
    if (pattern == null) {
      return localOrRfc(text);
    }
    return pattern.startsWith("epoch-") ? sinceEpoch(text) : byPattern(text);
  }

  private Instant sinceEpoch(String text) {
    if (!text.matches("\\d{1,15}([.,]\\d+)?")) {
      throw new WrongValue("is not a number of " + pattern.substring(6) + " since 1970");
    }
    double number = Double.parseDouble(text.replace(',', '.'));
    return Instant.ofEpochMilli(Math.round(SECONDS.equals(pattern) ? number * 1000 : number));
  }

  private Instant byPattern(String text) {
    try {
      TemporalAccessor parsed = formatter(pattern).parse(text);
      if (parsed.isSupported(ChronoField.INSTANT_SECONDS)) {
        return Instant.from(parsed);
      }
      LocalTime clock = parsed.query(TemporalQueries.localTime());
      var day = parsed.query(TemporalQueries.localDate());
      if (day == null) {
        throw new WrongValue("has no day by the pattern " + pattern);
      }
      return atZone(day.atTime(clock == null ? LocalTime.MIDNIGHT : clock));
    } catch (DateTimeException e) {
      throw new WrongValue("is not a time by the pattern " + pattern, e);
    }
  }

  private Instant localOrRfc(String text) {
    try {
      return atZone(LocalDateTime.parse(text.replace(' ', 'T')));
    } catch (DateTimeException e) {
      return Values.time(text);
    }
  }

  private Instant atZone(LocalDateTime local) {
    if (zone == null) {
      throw new WrongValue("has no offset: say which zone it is in");
    }
    ZoneId id = ZoneId.of(zone);
    if (id.getRules().getValidOffsets(local).isEmpty()) {
      throw new WrongValue("is no time in " + zone + ": the clock was put forward over it");
    }
    return local.atZone(id).withEarlierOffsetAtOverlap().toInstant();
  }
}
