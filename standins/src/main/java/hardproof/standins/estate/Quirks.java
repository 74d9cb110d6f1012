package hardproof.standins.estate;

import hardproof.standins.artifacts.Machines.Fate;
import hardproof.standins.estate.Scenario.ResourceRow;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.Random;

/** What is odd about single resources, so that there is something to find. */
final class Quirks {
  private Quirks() {}

  /** Since yesterday the directory's backups leave out the mail address of some people. */
  private static final int ATTRIBUTE_LOST_FOR_DAYS = 1;

  static boolean attributeLost(ResourceRow r, int daysAgo) {
    return r.key().equals("staff-dir") && daysAgo <= ATTRIBUTE_LOST_FOR_DAYS;
  }

  /** Whoever answers for the ferries' fuel wants it back in two hours. */
  static String rto(String workload) {
    return workload.equals("fuel-ledger") ? "2h" : null;
  }

  /** The marker that was planted in the bookings, to tell one point from another. */
  static final String MARKER = "TF-PLANTED-MARK";

  static final int MARKER_PLANTED_DAYS_AGO = 2;

  /** What becomes of the machines of the estate when they are started. */
  static Fate fate(ResourceRow r) {
    return switch (r.key()) {
      case "radio-gateway" -> Fate.FATAL;
      case "telemetry-gateway" -> Fate.NO_BOOT_RECORD;
      case "galley-kiosk" -> Fate.REPAIR;
      case "tickets-server" -> Fate.HANGS;
      case "mooring-logger" -> Fate.OWN_CONSOLE;
      default -> Fate.BOOTS;
    };
  }

  static String archiveFormat(ResourceRow r) {
    return switch (r.key()) {
      case "lost-share", "fuel-scans" -> "tar.zst";
      case "portal-logs", "tickets-share" -> "zip";
      case "museum-scans" -> "tar";
      default -> "tar.gz";
    };
  }

  /** Nobody made checksums of the bridge's scenarios. */
  static boolean withoutChecksum(ResourceRow r) {
    return r.key().equals("bridge-scenarios");
  }

  /** Its schedule was changed six days ago, and nobody thought of how many points it keeps. */
  static boolean evening(ResourceRow r) {
    return r.workload().equals("workshop-tickets") && !r.key().equals("tickets-spool");
  }

  static String outcome(ResourceRow r, int day) {
    return r.key().equals("camera-ramp") && day == 0 ? "partial" : "complete";
  }

  /** One run in a hundred fails, and another leaves something out; chains are spared, that have only one try a day. */
  static String laterOutcome(ResourceRow r, Random random) {
    int roll = random.nextInt(100);
    if (r.plan() == Scenario.Plan.CHAIN || roll > 1) {
      return "complete";
    }
    return roll == 0 ? "failed" : "partial";
  }

  static Integer skipped(ResourceRow r, int day) {
    if (r.key().equals("camera-ramp")) {
      return day == 0 ? 212 : 0;
    }
    return r.kind().equals("mail-store") ? 0 : null;
  }

  /** Telling the telemetry database was set up once and has never worked. */
  static String preStep(ResourceRow r) {
    return r.kind().equals("database") ? r.key().equals("telemetry-db") ? "no" : "yes" : null;
  }

  /** The rota's second server stopped three days ago, and nobody noticed. */
  static String sourceRole(ResourceRow r, int day) {
    return r.key().equals("rota-db") ? day <= 3 ? "active" : "passive" : null;
  }

  static long size(ResourceRow r, int day, long size) {
    return r.key().equals("camera-index") && day == 0 ? size * 2 / 5 : size;
  }

  static boolean copyIsMissing(ResourceRow r, String store, int day) {
    return r.key().equals("radio-index") && store.equals("nordal-object") && day >= 2 && day <= 4;
  }

  /** Somebody was short of space over the water, and told nobody. */
  static boolean tidiedAway(ResourceRow r, String store, int day) {
    return r.key().equals("photo-votes") && store.equals("holm-disk") && day == 2;
  }

  /** Years ago a server was switched off, and what was exported from it is still there. */
  static void leaveOver(ArtifactShelf shelf, Instant now) throws IOException {
    for (int year = 1; year <= 3; year++) {
      shelf.leftOver(
          "skerry-object",
          "from-the-old-server/export-" + year + ".tar",
          40_000 * year,
          now.minus(Duration.ofDays(365L * (4 - year) + 40)));
    }
  }

  /**
   * How long the rented store keeps things from change: somebody tried out less for the weather board, and left it
   * so.
   */
  static int daysKeptFromChange(String place) {
    return place.startsWith("weather-app/") ? 14 : 60;
  }

  static Integer agentSilentForDays(ResourceRow r) {
    return switch (r.key()) {
      case "tickets-server" -> 12;
      case "radio-gateway", "galley-kiosk", "portal-server", "telemetry-gateway" -> 0;
      default -> null;
    };
  }

  /**
   * What the ferries' ledger is signed in to with was tested 20 days ago and changed 6 days ago.
   *
   * @param daysAgo of what happened, counted from {@code now}; null while it is still to come
   */
  static Instant credentials(ResourceRow r, Instant now, int daysAgo, Instant seen) {
    Instant at = now.minus(Duration.ofDays(daysAgo));
    return r.key().equals("fuel-db") && !at.isAfter(seen) ? at : null;
  }

  static String importantPaths(ResourceRow r) {
    return r.key().equals("payroll-letters") ? "/letters;/slips" : null;
  }

  static String parent(ResourceRow r) {
    return switch (r.key()) {
      case "portal-data" -> "portal-server";
      case "tickets-spool" -> "tickets-server";
      default -> null;
    };
  }

  static String dataClass(String workload) {
    return switch (workload) {
      case "payroll", "crew-rota", "staff-directory" -> "personal";
      case "payments-relay", "seat-sales" -> "payment";
      default -> null;
    };
  }

  /** Somebody was short of space and moved what a drill restored to another disk. */
  static String movedTo(ResourceRow r) {
    return r.key().equals("lost-share") ? "spare-disk" : null;
  }

  /** The deck manuals went over the water after a burst pipe; of their members one has come back. */
  static String site(ResourceRow r, Instant now, Instant seen) {
    Duration ago = Duration.between(seen, now);
    boolean moved = r.workload().equals("deck-manuals") && ago.compareTo(Duration.ofDays(15)) < 0;
    boolean back = r.key().equals("deck-drawings") && ago.compareTo(Duration.ofDays(4)) < 0;
    return moved && !back ? "Holm Inlet" : "Skerry Point";
  }
}
