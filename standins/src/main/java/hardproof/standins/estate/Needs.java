package hardproof.standins.estate;

import java.util.Map;

/** What must be up before what, as an inventory would tell it. */
final class Needs {
  private static final Map<String, String> OF_WORKLOADS = Map.of(
      "seat-sales", "payments-relay",
      "ticket-gates", "seat-sales",
      "quay-shop", "payments-relay",
      "crew-rota", "staff-directory",
      "payroll", "staff-directory",
      "berth-booking", "staff-directory");

  private static final Map<String, String> OF_RESOURCES = Map.ofEntries(
      Map.entry("seat-tickets", "seat-db"),
      Map.entry("seat-media", "seat-db"),
      Map.entry("seat-web", "seat-db;seat-logins"),
      Map.entry("seat-kiosk", "seat-web"),
      Map.entry("relay-db", "relay-keys"),
      Map.entry("relay-ledger", "relay-db"),
      Map.entry("fuel-share", "fuel-db"),
      Map.entry("fuel-scans", "fuel-share"),
      Map.entry("lost-share", "lost-db"),
      Map.entry("telemetry-board", "telemetry-db;telemetry-alerts"),
      Map.entry("timetable-mirror", "timetable-web"),
      Map.entry("staff-portal", "staff-dir;staff-badges"),
      Map.entry("booking-web", "booking-db"),
      Map.entry("freight-edi", "freight-db"),
      Map.entry("galley-till", "galley-db"),
      Map.entry("camera-recorder", "camera-index"),
      Map.entry("gate-barriers", "gate-server"),
      Map.entry("radio-index", "radio-store"),
      Map.entry("radio-gateway", "radio-index"),
      Map.entry("gate-server", "gate-db"),
      Map.entry("galley-kiosk", "galley-db"),
      Map.entry("timetable-web", "timetable-db"),
      Map.entry("telemetry-gateway", "telemetry-db"),
      Map.entry("weather-app", "weather-charts"),
      Map.entry("camera-north", "camera-index"),
      Map.entry("camera-south", "camera-index"),
      Map.entry("camera-ramp", "camera-index"),
      Map.entry("tickets-server", "tickets-db"),
      Map.entry("payroll-letters", "payroll-db"));

  private Needs() {}

  /** Keys of workloads; null where it needs none. */
  static String ofWorkload(String key) {
    return OF_WORKLOADS.get(key);
  }

  /** Keys of resources; null where it needs none. */
  static String ofResource(String key) {
    return OF_RESOURCES.get(key);
  }
}
