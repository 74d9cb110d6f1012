package hardproof.core.feeds;

import hardproof.core.wording.WrongValue;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.temporal.ChronoField;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;

/**
 * Turns the rows of somebody else's export into rows of the bundle.
 *
 * @param file what the export becomes
 * @param columns by field, the column it comes from
 * @param constants by field, a value that every row gets where its column is empty or there is none
 * @param values by field, what their values mean; compared without regard to case; others stay as
 *     they are
 * @param zone of times that are written without an offset; null where there are none
 * @param timePattern as in java.time (dd.MM.yyyy HH:mm), {@code epoch-seconds} or {@code
 *     epoch-milliseconds}; null for RFC 3339
 * @param units by field, the unit of plain numbers: kB … TiB for sizes, s m h d for durations
 */
public record Mapping(
    String name,
    BundleFile file,
    Map<String, String> columns,
    Map<String, String> constants,
    Map<String, Map<String, String>> values,
    @Nullable String zone,
    @Nullable String timePattern,
    Map<String, String> units) {
  private static final String SECONDS = "epoch-seconds";
  private static final String MILLISECONDS = "epoch-milliseconds";
  private static final Map<String, DateTimeFormatter> PATTERNS = new ConcurrentHashMap<>();

  /**
   * @throws WrongValue with what can't be right
   */
  public Mapping {
    if (name == null || name.isBlank()) {
      throw new WrongValue("a mapping needs a name");
    }
    columns = Map.copyOf(columns);
    constants = Map.copyOf(constants);
    values = Map.copyOf(values);
    units = Map.copyOf(units);
    requireKnown(file, columns, constants, values, units);
    requireMapped(file, columns, constants);
    requireZone(zone);
    requirePattern(zone, timePattern);
  }

  private static void requireKnown(
      BundleFile file,
      Map<String, String> columns,
      Map<String, String> constants,
      Map<String, Map<String, String>> values,
      Map<String, String> units) {
    List<String> named = new ArrayList<>(columns.keySet());
    named.addAll(constants.keySet());
    named.addAll(values.keySet());
    named.addAll(units.keySet());
    for (String field : named) {
      if (!file.hasColumn(field)) {
        throw new WrongValue("'" + field + "' is no field of " + file.code());
      }
    }
  }

  private static void requireMapped(
      BundleFile file, Map<String, String> columns, Map<String, String> constants) {
    List<String> missing = new ArrayList<>();
    for (Field<?, ?> field : file.columns()) {
      if (field.required()
          && !columns.containsKey(field.name())
          && !constants.containsKey(field.name())) {
        missing.add(field.name());
      }
    }
    if (!missing.isEmpty()) {
      throw new WrongValue("nothing is mapped to " + String.join(", ", missing) + ", which "
          + file.code() + " must have; name a column, or give every row one value");
    }
  }

  private static void requireZone(@Nullable String zone) {
    if (zone != null) {
      try {
        ZoneId.of(zone);
      } catch (DateTimeException e) {
        throw new WrongValue("'" + zone + "' is no time zone; write it as Europe/Oslo or UTC", e);
      }
    }
  }

  private static void requirePattern(@Nullable String zone, @Nullable String timePattern) {
    if (timePattern != null && !timePattern.startsWith("epoch-")) {
      if (zone == null && !timePattern.matches(".*[xXzZOV].*")) {
        throw new WrongValue("times by the pattern '" + timePattern
            + "' have no offset: say which zone they are in");
      }
      formatter(timePattern);
    } else if (timePattern != null
        && !timePattern.equals(SECONDS)
        && !timePattern.equals(MILLISECONDS)) {
      throw new WrongValue("'" + timePattern + "' is no way to write times; use a pattern, "
          + SECONDS + " or " + MILLISECONDS);
    }
  }

  private static DateTimeFormatter formatter(String pattern) {
    try {
      return PATTERNS.computeIfAbsent(pattern, p -> build(p));
    } catch (IllegalArgumentException e) {
      throw new WrongValue(
          "'" + pattern + "' is no time pattern (" + e.getMessage() + "); write it as"
              + " dd.MM.yyyy HH:mm",
          e);
    }
  }

  private static DateTimeFormatter build(String p) {
    return new DateTimeFormatterBuilder()
        .parseCaseInsensitive()
        .appendPattern(p)
        .parseDefaulting(ChronoField.SECOND_OF_MINUTE, 0)
        .toFormatter(Locale.ENGLISH);
  }

  /** A row of the bundle, or why there is none. */
  public record Applied(RawRow row, List<Rejection> rejections) {}

  /**
   * @param row with the columns of the export, by their names in lower case
   */
  public Applied apply(String fileName, RawRow row) {
    Map<String, String> mapped = new LinkedHashMap<>();
    List<Rejection> rejections = new ArrayList<>();
    for (Field<?, ?> field : file.columns()) {
      String value = value(fileName, row, rejections, field);
      if (value != null && !value.isBlank()) {
        mapped.put(field.name(), value);
      }
    }
    return rejections.isEmpty()
        ? new Applied(new RawRow(row.line(), mapped), List.of())
        : new Applied(null, rejections);
  }

  private String value(String fileName, RawRow row, List<Rejection> rejections, Field<?, ?> field) {
    String column = columns.get(field.name());
    String value = column == null ? null : row.values().get(column.toLowerCase(Locale.ROOT));
    if (value == null) {
      value = constants.get(field.name());
    } else {
      try {
        value = convert(field, value);
      } catch (WrongValue e) {
        rejections.add(new Rejection(fileName, row.line(), field.name(), value, e.getMessage()));
      }
    }
    return value;
  }

  private String convert(Field<?, ?> field, String value) {
    Map<String, String> meanings = values.get(field.name());
    if (meanings != null) {
      Map<String, String> byCase = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
      byCase.putAll(meanings);
      String meaning = byCase.get(value.strip());
      if (meaning != null) {
        return meaning;
      }
    }
    if (field.isTime() && (timePattern != null || zone != null)) {
      return time(value).toString();
    }
    String unit = units.get(field.name());
    return unit != null && value.strip().matches("\\d+(\\.\\d+)?")
        ? withUnit(field, value.strip(), unit)
        : value;
  }

  private static String withUnit(Field<?, ?> field, String number, String unit) {
    if (field.type() != FieldType.DURATION) {
      return number + " " + unit;
    }
    double seconds = Double.parseDouble(number) * secondsIn(unit);
    return Duration.ofMillis(Math.round(seconds * 1000)).toString();
  }

  private static int secondsIn(String unit) {
    return switch (unit) {
      case "s" -> 1;
      case "m" -> 60;
      case "h" -> 3600;
      case "d" -> 86_400;
      default ->
        throw new WrongValue("is a duration, which '" + unit + "' is no unit of; use s, m, h or d");
    };
  }

  /**
   * A local time that a clock change leaves out is refused: it can't have been. One that comes twice
   * is taken as the earlier of the two: data is then called older than it may be, never younger.
   */
  private Instant time(String value) {
    String text = value.strip();
    if (SECONDS.equals(timePattern) || MILLISECONDS.equals(timePattern)) {
      return sinceEpoch(text);
    }
    if (timePattern == null) {
      return localOrRfc(text);
    }
    return byPattern(text);
  }

  private Instant sinceEpoch(String text) {
    if (!text.matches("\\d{1,15}(\\.\\d+)?")) {
      throw new WrongValue("is not a number of " + timePattern.substring(6) + " since 1970");
    }
    double number = Double.parseDouble(text);
    return Instant.ofEpochMilli(Math.round(SECONDS.equals(timePattern) ? number * 1000 : number));
  }

  private Instant byPattern(String text) {
    try {
      var parsed = formatter(timePattern).parse(text);
      if (parsed.isSupported(ChronoField.INSTANT_SECONDS)) {
        return Instant.from(parsed);
      }
      LocalTime clock = parsed.query(java.time.temporal.TemporalQueries.localTime());
      var day = parsed.query(java.time.temporal.TemporalQueries.localDate());
      if (day == null) {
        throw new WrongValue("has no day by the pattern " + timePattern);
      }
      return atZone(day.atTime(clock == null ? LocalTime.MIDNIGHT : clock));
    } catch (DateTimeException e) {
      throw new WrongValue("is not a time by the pattern " + timePattern, e);
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
    ZoneId id = ZoneId.of(zone == null ? "UTC" : zone);
    if (id.getRules().getValidOffsets(local).isEmpty()) {
      throw new WrongValue("is no time in " + zone + ": the clock was put forward over it");
    }
    return local.atZone(id).withEarlierOffsetAtOverlap().toInstant();
  }
}
