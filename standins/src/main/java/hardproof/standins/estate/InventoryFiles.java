package hardproof.standins.estate;

import hardproof.core.evidence.CsvCell;
import hardproof.standins.estate.Scenario.ResourceRow;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/** The files of the inventory feed. */
final class InventoryFiles {
  private InventoryFiles() {}

  /** A selector whose conditions must all hold, as JSON. */
  static String json(Map<String, String> all) {
    return new TreeMap<>(all)
        .entrySet().stream()
            .map(e -> "{\"field\":\"" + e.getKey() + "\",\"in\":[\"" + e.getValue() + "\"]}")
            .collect(Collectors.joining(",", "{\"all\":[", "]}"));
  }

  static String stores(Path root) {
    return "key,name,site,region,medium,failure_domain,online,can_lock,throughput,path\r\n"
        + store(
            root,
            "skerry-disk",
            "SKERRY DISK",
            "Skerry Point",
            "nordal",
            "disk",
            "skerry-array",
            true,
            false)
        + store(
            root,
            "skerry-object",
            "SKERRY OBJECT",
            "Skerry Point",
            "nordal",
            "object",
            "skerry-array",
            true,
            false)
        + store(
            root,
            "holm-disk",
            "HOLM DISK",
            "Holm Inlet",
            "nordal",
            "disk",
            "holm-array",
            true,
            false)
        + store(
            root,
            "nordal-object",
            "NORDAL OBJECT",
            "Nordal",
            "nordal",
            "object",
            "nordal-account",
            true,
            true)
        + store(
            root,
            "drift-tape",
            "DRIFT TAPE",
            "Drift Lane",
            "nordal",
            "tape",
            "drift-shelf",
            false,
            false);
  }

  private static String store(
      Path root,
      String key,
      String name,
      String site,
      String region,
      String medium,
      String domain,
      boolean online,
      boolean locks) {
    return CsvCell.row(
        key,
        name,
        site,
        region,
        medium,
        domain,
        online ? "yes" : "no",
        locks ? "yes" : "no",
        online ? "180 MB" : "90 MB",
        online ? root.resolve(key).toAbsolutePath() : null);
  }

  static String policies() {
    return "key,name,scope,schedule,keep_last,keep_for,copy_to\r\n"
        + policy(
            "every-3-hours", "Every three hours", "3h", "360", "holm-disk:4h;nordal-object:12h")
        + policy("daily", "Daily", "24h", "45", "holm-disk:24h")
        + policy("daily-large", "Daily, large volumes", "24h", "45", "holm-disk:24h")
        + policy("weekly-chain", "Weekly full, daily incremental", "24h", "45", "");
  }

  private static String policy(String key, String name, String every, String keep, String copies) {
    return CsvCell.row(key, name, json(Map.of("tag:protect", key)), every, keep, "45d", copies);
  }

  static String workloads() {
    StringBuilder csv = new StringBuilder("key,name,owner,tier\r\n");
    Scenario.WORKLOADS.forEach(
        w -> csv.append(CsvCell.row(w.key(), w.name(), w.owner(), w.tier())));
    return csv.toString();
  }

  static String resources(Predicate<ResourceRow> which, Instant seen, long seed, String without) {
    StringBuilder csv = new StringBuilder(
        "key,name,kind,workload,parent,site,region,environment,size,first_seen,last_seen,tags\r\n");
    for (ResourceRow r : Scenario.RESOURCES) {
      if (which.test(r) && !r.key().equals(without)) {
        csv.append(resource(r, seen, seed));
      }
    }
    return csv.toString();
  }

  private static String resource(ResourceRow r, Instant seen, long seed) {
    boolean test = r.key().startsWith("harbour-sim") && !r.key().equals("harbour-sim-4");
    Instant firstSeen = r.key().equals("harbour-sim-4") ? seen : seen.minus(Duration.ofDays(200));
    String protect = switch (r.plan()) {
      case GOLD -> "every-3-hours";
      case CHAIN -> "weekly-chain";
      case SLOW -> "daily-large";
      case DAILY -> "daily";
      case NONE -> null;
    };
    String tags =
        (protect == null ? "" : "protect=" + protect + ";") + "failure_domain=skerry-production";
    long size =
        20_000_000_000L + new Random(seed + r.key().hashCode()).nextInt(400) * 1_000_000_000L;
    return CsvCell.row(
        r.key(),
        r.key(),
        r.kind(),
        r.workload(),
        r.key().equals("portal-data") ? "portal-server" : null,
        "Skerry Point",
        "nordal",
        test ? "test" : "production",
        size,
        firstSeen,
        seen,
        tags);
  }

  static String exceptions(Instant now) {
    return "key,scope,criterion,reason,proposed_by,approved_by,from,until\r\n"
        + CsvCell.row(
            "test-machines",
            json(Map.of("environment", "test")),
            null,
            "Made anew from scripts before every exercise; holds no data",
            "operator",
            "approver",
            now.minus(Duration.ofDays(44)),
            now.plus(Duration.ofDays(120)))
        + CsvCell.row(
            "bridge-simulator",
            json(Map.of("key", "bridge-sim")),
            null,
            "Out of use until the autumn course begins",
            "operator",
            "approver",
            now.minus(Duration.ofDays(44)),
            now.minus(Duration.ofDays(7)));
  }
}
