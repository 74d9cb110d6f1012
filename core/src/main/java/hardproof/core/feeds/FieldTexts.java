package hardproof.core.feeds;

import hardproof.core.estate.Policy.CopyTarget;
import hardproof.core.ladder.Rung;
import hardproof.core.schedule.Schedule;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** How the texts of some fields are read. */
final class FieldTexts {
  private static final long DAY = 86_400;
  private static final long FIRST_SECOND = LocalDate.of(0, 1, 1).toEpochDay() * DAY;
  private static final long LAST_SECOND = LocalDate.of(10_000, 1, 1).toEpochDay() * DAY - 1;

  private FieldTexts() {}

  /** An interval such as 24h, or anything that is read as a schedule. */
  static Schedule schedule(String text, @Nullable String zone, Notation notation) {
    return text.matches("(?i)\\d+\\s*[smhdw]|P.*")
        ? Schedule.every(Values.duration(text))
        : notation.schedule(text, zone);
  }

  /** One that an older version took and this one does not read is not known: nothing is promised by it. */
  static @Nullable Schedule keptSchedule(String text, @Nullable String zone, Notation notation) {
    try {
      return notation.schedule(text, zone);
    } catch (WrongValue e) {
      return null;
    }
  }

  /**
   * The same as {@link Instant#toString}, in a tenth of its time where it is a whole second of a year with four digits, as
   * nearly all of the millions of times in a large export are.
   */
  static String instant(Instant instant) {
    long second = instant.getEpochSecond();
    if (instant.getNano() != 0 || second < FIRST_SECOND || second > LAST_SECOND) {
      return instant.toString();
    }
    LocalDate day = LocalDate.ofEpochDay(Math.floorDiv(second, DAY));
    int ofDay = (int) Math.floorMod(second, DAY);
    byte[] text = "0000-00-00T00:00:00Z".getBytes(StandardCharsets.ISO_8859_1);
    digits(day.getYear(), 4, text);
    digits(day.getMonthValue(), 7, text);
    digits(day.getDayOfMonth(), 10, text);
    digits(ofDay / 3600, 13, text);
    digits(ofDay / 60 % 60, 16, text);
    digits(ofDay % 60, 19, text);
    return new String(text, StandardCharsets.ISO_8859_1);
  }

  /** Written so that it ends before {@code end}. */
  private static void digits(int number, int end, byte[] text) {
    int at = end;
    for (int left = number; left > 0; left /= 10) {
      text[--at] = (byte) ('0' + left % 10);
    }
  }

  static String zone(String text) {
    try {
      return ZoneId.of(text).getId();
    } catch (DateTimeException e) {
      throw new WrongValue("is no time zone; write it as Europe/Oslo or UTC", e);
    }
  }

  static boolean passed(String text) {
    return switch (text.toLowerCase(Locale.ROOT)) {
      case "passed" -> true;
      case "failed" -> false;
      default -> throw new WrongValue("is not one of passed, failed");
    };
  }

  static Rung rung(String text) {
    return text.matches("\\d") ? Rung.numbered(Integer.parseInt(text)) : Coded.of(Rung.class, text);
  }

  static List<CopyTarget> targets(String text) {
    return Values.deadlines(text).stream()
        .map(e -> new CopyTarget(e.getKey(), e.getValue()))
        .toList();
  }

  static @Nullable String joined(List<String> items) {
    return items.isEmpty() ? null : items.stream().collect(Collectors.joining(";"));
  }
}
