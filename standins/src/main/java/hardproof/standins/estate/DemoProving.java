package hardproof.standins.estate;

import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.standins.estate.DemoEstate.DemoProgramme;
import hardproof.standins.estate.DemoEstate.LaterChecks;
import hardproof.standins.estate.DemoEstate.PastDrill;
import hardproof.standins.estate.DemoEstate.PastRehearsal;
import hardproof.standins.estate.Scenario.ResourceRow;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** What the scenario's people had drilled, ask of restored data, and plan. */
final class DemoProving {
  private final Instant now;

  DemoProving(Instant now) {
    this.now = now;
  }

  List<PastDrill> past() {
    List<PastDrill> drills = new ArrayList<>();
    for (ResourceRow r : Scenario.RESOURCES) {
      for (int day : r.drills()) {
        // An hour after the delivery of that day, so that its newest point is known.
        Instant at = now.minus(Duration.ofDays(day))
            .plus(Duration.ofMinutes(30 + Math.floorMod(r.key().hashCode(), 90)));
        boolean archive = r.stores().equals(Scenario.TWO);
        drills.add(new PastDrill(
            at,
            r.key(),
            archive ? "read-through" : null,
            day % 2 == 0 ? "operator" : "administrator",
            archive ? "yearly read-back" : "quarterly restore test",
            Quirks.movedTo(r)));
      }
    }
    drills.sort(Comparator.comparing(PastDrill::at).thenComparing(PastDrill::resource));
    return drills;
  }

  List<PastRehearsal> rehearsals() {
    return List.of(
        new PastRehearsal(
            rehearsed("fuel-ledger"),
            "fuel-ledger",
            "operator",
            "yearly recovery exercise",
            Map.of(
                "fuel-db", Duration.ofMinutes(95),
                "fuel-share", Duration.ofMinutes(55),
                "fuel-scans", Duration.ofMinutes(40))),
        new PastRehearsal(
            rehearsed("lost-property"),
            "lost-property",
            "operator",
            "after the move to new stores",
            Map.of("lost-db", Duration.ofMinutes(17), "lost-share", Duration.ofMinutes(31))));
  }

  /** After the delivery of that day, so that its newest points are known. */
  private Instant rehearsed(String workload) {
    return now.minus(Duration.ofDays(Scenario.REHEARSED.get(workload))).plus(Duration.ofHours(2));
  }

  static Map<String, List<Check>> checks() {
    Map<String, List<Check>> checks = new HashMap<>();
    for (ResourceRow r : Scenario.RESOURCES) {
      if (r.database() && r.artifacts()) {
        List<Check> own = new ArrayList<>();
        own.add(new Check(CheckType.QUERY_AT_LEAST, "SELECT count(*) FROM entry", "3000"));
        if (r.key().equals("booking-db")) {
          own.add(new Check(CheckType.NEWEST_WITHIN, "SELECT max(made_at) FROM entry", "60h"));
        } else {
          own.add(new Check(CheckType.NEWEST_WITHIN, "SELECT max(made_at) FROM entry", "15m"));
        }
        checks.put(r.key(), own);
      }
    }
    addOthers(checks);
    return checks;
  }

  private static void addOthers(Map<String, List<Check>> checks) {
    checks.put(
        "staff-dir",
        List.of(
            new Check(CheckType.ENTRIES_AT_LEAST, "(objectClass=inetOrgPerson)", "60"),
            new Check(CheckType.ATTRIBUTES_KEPT, "(objectClass=inetOrgPerson)", "mail,uid")));
    checks.put(
        "seat-logins",
        List.of(new Check(CheckType.ENTRIES_AT_LEAST, "(objectClass=inetOrgPerson)", "60")));
    String seats = "volumes/seat-web-data/entries.db :: SELECT count(*) FROM entry";
    checks.put(
        "seat-web",
        List.of(
            new Check(CheckType.QUERY_AT_LEAST, seats, "3000"),
            new Check(CheckType.AGREES, seats, "seat-db :: SELECT count(*) FROM entry")));
    checks.put(
        "seat-kiosk", List.of(new Check(CheckType.NEEDED_ANSWERS, "seat-web :: " + seats, "3000")));
    for (String app : List.of("shop-app", "weather-app")) {
      checks.put(
          app,
          List.of(new Check(
              CheckType.QUERY_AT_LEAST,
              "volumes/" + app + "-data/entries.db :: SELECT count(*) FROM entry",
              "3000")));
    }
  }

  /** Checks that came to a resource only lately: a marker that was planted, a validator that was hired. */
  List<LaterChecks> laterChecks() {
    return List.of(
        new LaterChecks(
            now.minus(Duration.ofDays(Quirks.MARKER_PLANTED_DAYS_AGO).minusHours(8)),
            "booking-db",
            new Check(CheckType.MARKER_THERE, "SELECT reference FROM entry", Quirks.MARKER)),
        new LaterChecks(
            now.minus(Duration.ofDays(3)),
            "bunker-db",
            new Check(CheckType.OUTSIDE, "http://127.0.0.1:9/validate", "30m")));
  }

  /** When the sample of the week was drawn. */
  Instant sampled() {
    return now.minus(Duration.ofHours(26)).truncatedTo(ChronoUnit.HOURS);
  }

  List<DemoProgramme> programmes() {
    int hour = now.plus(Duration.ofHours(5)).atZone(ZoneOffset.UTC).getHour();
    Instant yesterday = now.minus(Duration.ofDays(1));
    ZonedDateTime sampled = sampled().atZone(ZoneOffset.UTC);
    return List.of(
        new DemoProgramme(
            "nightly-tier-3",
            "Nightly restores, tier 3 databases",
            InventoryFiles.json(Map.of("tier", "3", "kind", "database")),
            "FREQ=DAILY;BYHOUR=" + hour + ";BYMINUTE=0;BYSECOND=0",
            "4h",
            "3d",
            null,
            yesterday),
        new DemoProgramme(
            "weekly-tier-1",
            "Weekly restores, tier 1",
            InventoryFiles.json(Map.of("tier", "1")),
            "FREQ=WEEKLY;BYDAY=SA;BYHOUR=" + hour + ";BYMINUTE=30;BYSECOND=0",
            "12h",
            null,
            null,
            yesterday),
        new DemoProgramme(
            "weekly-sample",
            "Weekly sample, databases of tiers 2 and 3",
            "{\"all\":[{\"field\":\"kind\",\"in\":[\"database\"]},"
                + "{\"field\":\"tier\",\"in\":[\"2\",\"3\"]}]}",
            "FREQ=WEEKLY;BYDAY=" + sampled.getDayOfWeek().name().substring(0, 2) + ";BYHOUR="
                + sampled.getHour() + ";BYMINUTE=0;BYSECOND=0",
            "12h",
            "2d",
            12,
            sampled().minus(Duration.ofDays(1))));
  }
}
