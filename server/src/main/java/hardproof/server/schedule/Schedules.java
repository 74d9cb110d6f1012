package hardproof.server.schedule;

import hardproof.core.feeds.Values;
import hardproof.core.schedule.Cron;
import hardproof.core.schedule.Recurrence;
import hardproof.core.schedule.Schedule;
import hardproof.core.wording.WrongValue;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/** Schedules from their text. A text is read once; policies by the thousand share few of them. */
public final class Schedules {
  private static final int KEPT = 1000;
  private static final Map<List<String>, Schedule> READ = new ConcurrentHashMap<>();

  private Schedules() {}

  /**
   * An interval (24h, PT12H), a recurrence rule of RFC 5545 counted from {@link
   * Schedule#COUNTED_FROM}, or five cron fields.
   *
   * @param zone null means UTC
   * @throws WrongValue with what can't be read
   */
  public static Schedule read(String text, String zone) {
    List<String> key = List.of(text, zone == null ? "" : zone);
    Schedule known = READ.get(key);
    if (known == null) {
      known = parse(text.strip(), zone);
      if (READ.size() >= KEPT) {
        READ.clear();
      }
      READ.put(key, known);
    }
    return known;
  }

  private static Schedule parse(String text, String zone) {
    if (text.matches("(?i)\\d+\\s*[smhdw]|P.*")) {
      return Schedule.every(Values.duration(text));
    }
    String in = zone == null ? "UTC" : zone;
    if (!Cron.looksLike(text)) {
      return byRule(text, zone, in);
    }
    List<Recurrence> rules = Cron.rules(text).stream()
        .map(r -> (Recurrence) RfcRecurrence.of(r, in, Schedule.COUNTED_FROM))
        .toList();
    return Schedule.of(text, zone, either(rules));
  }

  private static Schedule byRule(String text, String zone, String in) {
    if (!text.toUpperCase(java.util.Locale.ROOT).contains("FREQ=")) {
      throw new WrongValue(
          "is no schedule; write an interval such as 24h, a rule"
              + " such as FREQ=DAILY;BYHOUR=22;BYMINUTE=0;BYSECOND=0, or cron fields such as 0 22 * * *");
    }
    return Schedule.of(text, zone, RfcRecurrence.of(text, in, Schedule.COUNTED_FROM));
  }

  private static Recurrence either(List<Recurrence> rules) {
    return rules.size() == 1
        ? rules.get(0)
        : (Instant after) -> rules.stream()
            .map(r -> r.nextAfter(after))
            .flatMap(Optional::stream)
            .min(Comparator.naturalOrder());
  }
}
