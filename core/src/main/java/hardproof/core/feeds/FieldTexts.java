package hardproof.core.feeds;

import hardproof.core.estate.Policy.CopyTarget;
import hardproof.core.ladder.Rung;
import hardproof.core.schedule.Schedule;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** How the texts of some fields are read. */
final class FieldTexts {
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
