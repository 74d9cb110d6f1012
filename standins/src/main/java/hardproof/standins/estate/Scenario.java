package hardproof.standins.estate;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Who and what there is at Tarnwick Ferries. All of it is made up. */
final class Scenario {
  /** How a resource is backed up. */
  enum Plan {
    /** A full every three hours. */
    GOLD,
    /** A full a day. */
    DAILY,
    /** A full a week, incrementals in between. */
    CHAIN,
    /** A full a day that takes eleven hours. */
    SLOW,
    /** Nothing at all. */
    NONE
  }

  record WorkloadRow(String key, String name, String owner, String tier) {}

  /**
   * A resource.
   *
   * @param stores keys of the stores that get copies, the primary one first
   * @param drills days ago on which it was drilled, oldest first; artifacts exist for those points
   * @param artifacts whether the newest points have artifacts
   */
  record ResourceRow(
      String key,
      String kind,
      String workload,
      Plan plan,
      List<String> stores,
      boolean artifacts,
      int... drills) {
    boolean database() {
      return kind.equals("database");
    }
  }

  static final List<String> THREE = List.of("skerry-disk", "holm-disk", "nordal-object");
  static final List<String> WITH_TAPE = List.of("skerry-disk", "holm-disk", "drift-tape");
  static final List<String> ONE_ARRAY = List.of("skerry-disk", "skerry-object");
  static final List<String> ABROAD =
      List.of("skerry-disk", "holm-disk", "nordal-object", "vestmark-object");
  static final List<String> TWO = List.of("skerry-disk", "holm-disk");

  static final List<WorkloadRow> WORKLOADS = List.of(
      new WorkloadRow("seat-sales", "Seat sales", "Astrid Vell", "1"),
      new WorkloadRow("fleet-positions", "Fleet positions", "Jonas Brae", "1"),
      new WorkloadRow("berth-radio", "Berth radio logs", "Jonas Brae", "1"),
      new WorkloadRow("payments-relay", "Payments relay", "Astrid Vell", "1"),
      new WorkloadRow("crew-rota", "Crew rota", "Petra Lund", "2"),
      new WorkloadRow("fuel-ledger", "Fuel ledger", "Oskar Thyne", "2"),
      new WorkloadRow("timetable-site", "Timetable site", "Astrid Vell", "2"),
      new WorkloadRow("payroll", "Payroll", "Petra Lund", "2"),
      new WorkloadRow("staff-directory", "Staff directory", "Nils Arden", "2"),
      new WorkloadRow("engine-telemetry", "Engine telemetry", "Oskar Thyne", "2"),
      new WorkloadRow("ticket-gates", "Ticket gates", "Nils Arden", "2"),
      new WorkloadRow("berth-booking", "Berth booking", "Jonas Brae", "2"),
      new WorkloadRow("quay-cameras", "Quay cameras", "Runa Feld", "3"),
      new WorkloadRow("lost-property", "Lost property", "Runa Feld", "3"),
      new WorkloadRow("freight-manifests", "Freight manifests", "Edvin Stroem", "3"),
      new WorkloadRow("galley-orders", "Galley orders", "Mina Corr", "3"),
      new WorkloadRow("workshop-tickets", "Workshop tickets", "Edvin Stroem", "3"),
      new WorkloadRow("wifi-portal", "Passenger Wi-Fi portal", "Nils Arden", "3"),
      new WorkloadRow("quay-shop", "Quay shop", "Mina Corr", "3"),
      new WorkloadRow("weather-board", "Weather board", "Oskar Thyne", "3"),
      new WorkloadRow("bunker-orders", "Bunker orders", "Oskar Thyne", "3"),
      new WorkloadRow("museum-archive", "Museum archive", "Mina Corr", "4"),
      new WorkloadRow("photo-contest", "Photo contest", "Mina Corr", "4"),
      new WorkloadRow("deck-manuals", "Deck manuals", "Petra Lund", "4"),
      new WorkloadRow("test-harbour", "Test harbour", "Nils Arden", "4"),
      new WorkloadRow("training-bridge", "Training bridge simulator", "", "4"));

  static final List<ResourceRow> RESOURCES = resources();

  private Scenario() {}

  private static List<ResourceRow> resources() {
    List<ResourceRow> r = new ArrayList<>();
    addTierOne(r);
    addTierTwo(r);
    addTierThree(r);
    addOthers(r);
    return List.copyOf(r);
  }

  private static void addTierThree(List<ResourceRow> r) {
    facts(r, "camera-north", "file-share", "quay-cameras", Plan.CHAIN, WITH_TAPE);
    facts(r, "camera-south", "file-share", "quay-cameras", Plan.CHAIN, WITH_TAPE);
    facts(r, "camera-ramp", "file-share", "quay-cameras", Plan.CHAIN, WITH_TAPE);
    facts(r, "camera-east", "file-share", "quay-cameras", Plan.CHAIN, WITH_TAPE);
    facts(r, "camera-west", "file-share", "quay-cameras", Plan.CHAIN, WITH_TAPE);
    facts(r, "camera-depot", "file-share", "quay-cameras", Plan.CHAIN, WITH_TAPE);
    facts(r, "camera-recorder", "physical-server", "quay-cameras", Plan.DAILY, WITH_TAPE);
    facts(r, "camera-index", "database", "quay-cameras", Plan.DAILY, WITH_TAPE);
    add(r, "lost-db", "database", "lost-property", Plan.DAILY, THREE, 15);
    add(r, "lost-share", "file-share", "lost-property", Plan.CHAIN, WITH_TAPE, 15);
    add(r, "freight-share", "file-share", "freight-manifests", Plan.CHAIN, WITH_TAPE, 1);
    add(r, "freight-db", "database", "freight-manifests", Plan.DAILY, THREE, 12);
    facts(r, "freight-edi", "virtual-machine", "freight-manifests", Plan.DAILY, THREE);
    facts(r, "freight-labels", "file-share", "freight-manifests", Plan.CHAIN, WITH_TAPE);
    facts(r, "freight-scanner", "physical-server", "freight-manifests", Plan.DAILY, THREE);
    facts(r, "galley-menus", "file-share", "galley-orders", Plan.CHAIN, WITH_TAPE);
    facts(r, "galley-till", "virtual-machine", "galley-orders", Plan.DAILY, THREE);
    add(r, "galley-kiosk", "virtual-machine", "galley-orders", Plan.DAILY, THREE, 4);
    add(r, "galley-db", "database", "galley-orders", Plan.DAILY, THREE, 12);
    add(r, "tickets-server", "physical-server", "workshop-tickets", Plan.DAILY, ONE_ARRAY, 4);
    add(r, "tickets-share", "file-share", "workshop-tickets", Plan.DAILY, ONE_ARRAY);
    add(r, "tickets-db", "database", "workshop-tickets", Plan.DAILY, ONE_ARRAY);
    facts(r, "tickets-plans", "file-share", "workshop-tickets", Plan.DAILY, ONE_ARRAY);
    facts(r, "tickets-lathe", "virtual-machine", "workshop-tickets", Plan.DAILY, ONE_ARRAY);
    facts(r, "tickets-spool", "volume", "workshop-tickets", Plan.NONE, List.of());
    add(r, "portal-server", "virtual-machine", "wifi-portal", Plan.DAILY, THREE, 7);
    facts(r, "portal-data", "volume", "wifi-portal", Plan.NONE, List.of());
    add(r, "portal-logs", "file-share", "wifi-portal", Plan.DAILY, THREE, 7);
    add(r, "portal-pages", "object-storage", "wifi-portal", Plan.DAILY, THREE, 7);
  }

  private static void addOthers(List<ResourceRow> r) {
    add(r, "museum-scans", "file-share", "museum-archive", Plan.CHAIN, TWO, 40);
    add(r, "museum-catalogue", "database", "museum-archive", Plan.DAILY, TWO, 30);
    add(r, "photo-uploads", "object-storage", "photo-contest", Plan.DAILY, TWO, 5);
    facts(r, "harbour-sim-1", "virtual-machine", "test-harbour", Plan.NONE, List.of());
    facts(r, "harbour-sim-2", "virtual-machine", "test-harbour", Plan.NONE, List.of());
    facts(r, "harbour-sim-3", "virtual-machine", "test-harbour", Plan.NONE, List.of());
    facts(r, "harbour-sim-4", "virtual-machine", "test-harbour", Plan.NONE, List.of());
    facts(r, "harbour-sim-5", "virtual-machine", "test-harbour", Plan.NONE, List.of());
    facts(r, "harbour-sim-6", "virtual-machine", "test-harbour", Plan.NONE, List.of());
    facts(r, "bridge-sounds", "file-share", "training-bridge", Plan.DAILY, TWO);
    facts(r, "bridge-exports", "object-storage", "training-bridge", Plan.DAILY, TWO);
    add(r, "museum-letters", "file-share", "museum-archive", Plan.CHAIN, TWO, 40);
    add(r, "photo-votes", "database", "photo-contest", Plan.DAILY, TWO, 5);
    facts(r, "bridge-sim", "virtual-machine", "training-bridge", Plan.NONE, List.of());
    add(r, "bridge-scenarios", "file-share", "training-bridge", Plan.DAILY, TWO);
    add(r, "mooring-logger", "physical-server", "", Plan.DAILY, THREE, 1);
    add(r, "gate-server", "virtual-machine", "ticket-gates", Plan.DAILY, THREE, 9);
    add(r, "gate-db", "database", "ticket-gates", Plan.DAILY, THREE, 9);
    add(r, "booking-db", "database", "berth-booking", Plan.DAILY, THREE, 6, 1);
    add(r, "shop-app", "container-application", "quay-shop", Plan.DAILY, THREE, 3);
    facts(r, "shop-stock", "database", "quay-shop", Plan.DAILY, THREE);
    facts(r, "shop-pictures", "object-storage", "quay-shop", Plan.DAILY, THREE);
    add(r, "gate-barriers", "physical-server", "ticket-gates", Plan.DAILY, THREE, 9);
    add(r, "weather-app", "container-application", "weather-board", Plan.DAILY, THREE, 11);
    add(r, "weather-charts", "file-share", "weather-board", Plan.CHAIN, WITH_TAPE, 11);
    add(r, "bunker-db", "database", "bunker-orders", Plan.DAILY, ONE_ARRAY, 17, 2);
    facts(r, "bunker-receipts", "file-share", "bunker-orders", Plan.DAILY, ONE_ARRAY);
    add(r, "deck-library", "file-share", "deck-manuals", Plan.CHAIN, TWO);
    facts(r, "deck-drawings", "file-share", "deck-manuals", Plan.CHAIN, TWO);
    facts(r, "deck-forms", "object-storage", "deck-manuals", Plan.DAILY, TWO);
  }

  private static void addTierOne(List<ResourceRow> r) {
    add(r, "seat-db", "database", "seat-sales", Plan.GOLD, THREE, 3);
    add(r, "seat-tickets", "file-share", "seat-sales", Plan.GOLD, THREE, 3);
    add(r, "seat-media", "object-storage", "seat-sales", Plan.GOLD, THREE, 3);
    add(r, "seat-logins", "directory", "seat-sales", Plan.GOLD, THREE, 3);
    add(r, "seat-web", "container-application", "seat-sales", Plan.GOLD, THREE, 3);
    add(r, "seat-kiosk", "virtual-machine", "seat-sales", Plan.GOLD, THREE, 3);
    add(r, "fleet-db", "database", "fleet-positions", Plan.GOLD, THREE, 26);
    add(r, "fleet-archive", "file-share", "fleet-positions", Plan.GOLD, THREE, 25);
    add(r, "fleet-charts", "file-share", "fleet-positions", Plan.GOLD, THREE, 25);
    facts(r, "radio-recordings", "file-share", "berth-radio", Plan.GOLD, THREE);
    facts(r, "radio-console", "virtual-machine", "berth-radio", Plan.GOLD, THREE);
    facts(r, "radio-index", "database", "berth-radio", Plan.GOLD, THREE);
    facts(r, "radio-store", "file-share", "berth-radio", Plan.GOLD, THREE);
    add(r, "radio-gateway", "virtual-machine", "berth-radio", Plan.GOLD, THREE, 6);
    add(r, "relay-db", "database", "payments-relay", Plan.GOLD, THREE, 36);
    add(r, "relay-keys", "file-share", "payments-relay", Plan.GOLD, THREE, 36);
    add(r, "relay-ledger", "database", "payments-relay", Plan.GOLD, THREE, 36);
  }

  private static void addTierTwo(List<ResourceRow> r) {
    add(r, "rota-db", "database", "crew-rota", Plan.DAILY, ABROAD, 10);
    add(r, "rota-share", "file-share", "crew-rota", Plan.CHAIN, WITH_TAPE, 10);
    add(r, "fuel-db", "database", "fuel-ledger", Plan.DAILY, THREE, 20);
    add(r, "fuel-share", "file-share", "fuel-ledger", Plan.DAILY, THREE, 20);
    add(r, "fuel-scans", "volume", "fuel-ledger", Plan.CHAIN, THREE, 19);
    facts(r, "timetable-web", "virtual-machine", "timetable-site", Plan.DAILY, THREE);
    facts(r, "timetable-db", "database", "timetable-site", Plan.DAILY, THREE);
    add(r, "payroll-db", "database", "payroll", Plan.DAILY, THREE, 20, 1);
    add(r, "payroll-share", "file-share", "payroll", Plan.DAILY, THREE, 20);
    add(r, "payroll-letters", "file-share", "payroll", Plan.CHAIN, WITH_TAPE, 18);
    add(r, "staff-dir", "directory", "staff-directory", Plan.DAILY, THREE, 8, 1);
    facts(r, "staff-photos", "file-share", "staff-directory", Plan.DAILY, ABROAD);
    facts(r, "telemetry-db", "database", "engine-telemetry", Plan.DAILY, THREE);
    facts(r, "telemetry-lake", "object-storage", "engine-telemetry", Plan.SLOW, THREE);
    add(r, "telemetry-gateway", "virtual-machine", "engine-telemetry", Plan.DAILY, THREE, 5);
    facts(r, "telemetry-maps", "file-share", "engine-telemetry", Plan.CHAIN, THREE);
    facts(r, "telemetry-alerts", "database", "engine-telemetry", Plan.DAILY, THREE);
    facts(r, "telemetry-old", "volume", "engine-telemetry", Plan.CHAIN, THREE);
    facts(r, "telemetry-board", "container-application", "engine-telemetry", Plan.DAILY, THREE);
    facts(r, "timetable-mirror", "virtual-machine", "timetable-site", Plan.DAILY, THREE);
    facts(r, "timetable-images", "file-share", "timetable-site", Plan.CHAIN, THREE);
    facts(r, "timetable-feeds", "object-storage", "timetable-site", Plan.DAILY, THREE);
    facts(r, "radio-mast", "physical-server", "berth-radio", Plan.GOLD, THREE);
    facts(r, "radio-backlog", "file-share", "berth-radio", Plan.GOLD, THREE);
    facts(r, "staff-badges", "database", "staff-directory", Plan.DAILY, THREE);
    facts(r, "staff-portal", "container-application", "staff-directory", Plan.DAILY, THREE);
    facts(r, "booking-web", "virtual-machine", "berth-booking", Plan.DAILY, THREE);
    facts(r, "booking-mail", "mail-store", "berth-booking", Plan.DAILY, THREE);
  }

  private static void add(
      List<ResourceRow> rows,
      String key,
      String kind,
      String workload,
      Plan plan,
      List<String> stores,
      int... drills) {
    rows.add(new ResourceRow(key, kind, workload, plan, stores, true, drills));
  }

  /** Days ago on which whole workloads were brought back, by their keys; artifacts exist for those points. */
  static final Map<String, Integer> REHEARSED = Map.of("fuel-ledger", 12, "lost-property", 6);

  private static void facts(
      List<ResourceRow> rows,
      String key,
      String kind,
      String workload,
      Plan plan,
      List<String> stores) {
    rows.add(new ResourceRow(key, kind, workload, plan, stores, false));
  }

  /** By data class, where copies may lie. */
  static final Map<String, List<String>> REGIONS =
      Map.of("personal", List.of("nordal"), "payment", List.of("nordal"));

  /** People who can sign in to the demo. */
  static final List<DemoEstate.DemoPerson> PEOPLE = List.of(
      new DemoEstate.DemoPerson("auditor", "Maren Tveit", "auditor"),
      new DemoEstate.DemoPerson("operator", "Tobias Quill", "operator"),
      new DemoEstate.DemoPerson("approver", "Ingrid Solheim", "approver"),
      new DemoEstate.DemoPerson("administrator", "Edda Roke", "administrator"));
}
