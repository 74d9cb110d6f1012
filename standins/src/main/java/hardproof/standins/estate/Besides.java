package hardproof.standins.estate;

import hardproof.standins.estate.Scenario.ResourceRow;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What a restore needs besides the data, as the inventory knows it. */
final class Besides {
  /** Days ago on which the recovery kit of a server was tried; of the camera recorder's nobody knows. */
  private static final Map<String, Integer> KITS =
      Map.of("gate-barriers", 60, "radio-mast", 75, "freight-scanner", 200, "tickets-server", 400);

  private static final String SAFE = "Skerry Point;safe of the notary";

  private Besides() {}

  static @Nullable String kit(ResourceRow r) {
    return KITS.containsKey(r.key()) || r.key().equals("camera-recorder")
        ? "stick in the harbour office"
        : null;
  }

  static @Nullable Instant kitTried(ResourceRow r, Instant now) {
    Integer days = KITS.get(r.key());
    return days == null ? null : now.minus(Duration.ofDays(days));
  }

  /** The strictest workloads have one; the relay's was not followed for more than a year. */
  static @Nullable String runbook(ResourceRow r) {
    return tierOne(r) ? "recovery handbook, " + r.workload() : null;
  }

  static @Nullable Instant runbookTried(ResourceRow r, Instant now) {
    return tierOne(r)
        ? now.minus(Duration.ofDays(r.workload().equals("payments-relay") ? 400 : 90))
        : null;
  }

  /** The keys of the galley's backups lie where its data does, and nowhere else. */
  static @Nullable String keyPlaces(ResourceRow r) {
    return r.workload().equals("galley-orders")
        ? "Skerry Point"
        : r.workload().equals("engine-telemetry") ? null : SAFE;
  }

  static @Nullable String restorers(ResourceRow r) {
    return !tierOne(r)
        ? null
        : r.workload().equals("fleet-positions") ? "Jonas Brae" : "Nils Arden;Tobias Quill";
  }

  private static boolean tierOne(ResourceRow r) {
    return Scenario.WORKLOADS.stream()
        .anyMatch(w -> w.key().equals(r.workload()) && w.tier().equals("1"));
  }
}
