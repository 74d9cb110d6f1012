package hardproof.standins.estate;

import hardproof.standins.estate.Scenario.Plan;
import hardproof.standins.estate.Scenario.ResourceRow;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Locale;
import java.util.Random;

/** What the backups of the estate do as a rule. */
final class Habits {
  private static final Duration SLOW_RUN = Duration.ofHours(11);

  private Habits() {}

  static String policy(ResourceRow r) {
    return switch (r.plan()) {
      case GOLD -> "every-3-hours";
      case CHAIN -> "weekly-chain";
      case SLOW -> "daily-large";
      default -> Quirks.evening(r) ? "evening" : "daily";
    };
  }

  static String consistency(ResourceRow r) {
    return switch (r.kind()) {
      case "database", "directory" -> "application";
      case "virtual-machine", "physical-server", "volume" -> "crash";
      default -> "file";
    };
  }

  static boolean primary(ResourceRow r, String store) {
    return store.equals(r.stores().get(0));
  }

  static Duration lag(ResourceRow r, String store, int day, Random random) {
    Duration usual =
        primary(r, store) ? Duration.ZERO : Duration.ofMinutes(25 + random.nextInt(40));
    boolean late = r.key().equals("galley-db") && store.equals("holm-disk") && day <= 3;
    return late ? Duration.ofHours(31) : usual;
  }

  static String stamp(Instant instant) {
    var t = instant.atZone(ZoneOffset.UTC);
    return String.format(
        Locale.ROOT,
        "%02d%02d-%02d%02d",
        t.getMonthValue(),
        t.getDayOfMonth(),
        t.getHour(),
        t.getMinute());
  }

  /** How many points of it a day holds. */
  static int slots(ResourceRow r) {
    return r.plan() == Plan.GOLD ? 8 : 1;
  }

  /** How long its backup runs. */
  static Duration run(ResourceRow r, Random random) {
    return r.plan() == Plan.SLOW
        ? SLOW_RUN
        : Duration.ofMinutes((r.plan() == Plan.GOLD ? 9 : 50) + random.nextInt(15));
  }

  /** How old the data of a point is; the newest slot of day 0 is the newest point. */
  static Duration age(ResourceRow r, int day, int slot) {
    long shift = Math.floorMod(r.key().hashCode(), 50);
    return switch (r.plan()) {
      case GOLD -> Duration.ofDays(day).plusHours(3L * slot).plusMinutes(40 + shift);
      case SLOW -> Duration.ofDays(day).plusHours(4).plusMinutes(10);
      default -> Duration.ofDays(day).plusHours(6).plusMinutes(20 + 3 * shift);
    };
  }
}
