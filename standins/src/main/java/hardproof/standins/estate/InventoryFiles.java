package hardproof.standins.estate;

import hardproof.core.evidence.CsvCell;
import hardproof.standins.estate.Scenario.ResourceRow;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/** The files of the inventory feed. */
final class InventoryFiles {
  private static final List<String> STORES = List.of(
      "skerry-disk|SKERRY DISK|Skerry Point|nordal|disk|skerry-array|online",
      "skerry-object|SKERRY OBJECT|Skerry Point|nordal|object|skerry-array|online",
      "holm-disk|HOLM DISK|Holm Inlet|nordal|disk|holm-array|online",
      "nordal-object|NORDAL OBJECT|Nordal|nordal|object|nordal-account|online, locks",
      "drift-tape|DRIFT TAPE|Drift Lane|nordal|tape|drift-shelf|offline",
      "vestmark-object|VESTMARK OBJECT|Vestmark|vestmark|object|vestmark-account|online");

  private InventoryFiles() {}

  /** A selector whose conditions must all hold, as JSON. */
  static String json(Map<String, String> all) {
    return new TreeMap<>(all)
        .entrySet().stream()
            .map(e -> "{\"field\":\"" + e.getKey() + "\",\"in\":[\"" + e.getValue() + "\"]}")
            .collect(Collectors.joining(",", "{\"all\":[", "]}"));
  }

  static String stores(Path root) {
    return "key,name,site,region,medium,failure_domain,online,can_lock,redundancy,throughput,path,delete_approvals\r\n"
        + STORES.stream().map(line -> store(root, line.split("\\|"))).collect(Collectors.joining());
  }

  private static String store(Path root, String[] of) {
    String medium = of[4];
    String domain = of[5];
    boolean online = of[6].startsWith("online");
    boolean locks = of[6].endsWith("locks");
    return CsvCell.row(
        of[0],
        of[1],
        of[2],
        of[3],
        medium,
        domain,
        online ? "yes" : "no",
        locks ? "yes" : "no",
        medium.equals("object") && !domain.equals("skerry-array")
            ? "several-buildings"
            : online ? "one-building" : "none",
        online ? "180 MB" : "90 MB",
        online ? root.resolve(of[0]).toAbsolutePath() : null,
        locks ? 2 : 1);
  }

  /**
   * @param later after the evening policy was changed to run twice a day
   */
  static String policies(boolean later) {
    return "key,name,scope,schedule,zone,start_window,complete_within,keep_last,keep_for,keep_weekly,"
        + "keep_monthly,consistency,encrypted,copy_to,copy_window,exclude\r\n"
        + policy(
            "every-3-hours",
            "Every three hours",
            "3h",
            "30m;2h",
            "360",
            "30d",
            "holm-disk:4h;nordal-object:12h",
            "")
        + policy("daily", "Daily", "24h", "2h;8h", "", "30d", "holm-disk:24h", "tickets-spool")
        + policy(
            "daily-large", "Daily, large volumes", "24h", "4h;12h", "", "30d", "holm-disk:24h", "")
        + policy(
            "weekly-chain",
            "Weekly full, daily incremental",
            "24h",
            "2h;8h",
            "",
            "30d",
            "",
            "*.tmp;/letters/drafts")
        + policy(
            "evening",
            later ? "Morning and evening" : "Evening",
            later ? "0 6,18 * * *" : "0 18 * * *",
            "1h;6h",
            "14",
            "",
            "",
            "tickets-spool");
  }

  private static String policy(
      String key,
      String name,
      String every,
      String windows,
      String keepLast,
      String keepFor,
      String copies,
      String exclude) {
    return CsvCell.row(
        key,
        name,
        json(Map.of("tag:protect", key)),
        every,
        "UTC",
        windows.split(";")[0],
        windows.split(";")[1],
        keepLast,
        keepFor,
        key.equals("weekly-chain") ? 4 : null,
        null,
        null,
        "yes",
        copies,
        key.equals("daily-large") ? "not 08:00-18:00" : null,
        exclude);
  }

  static String workloads() {
    StringBuilder csv = new StringBuilder("key,name,owner,tier,needs,data_class,rto\r\n");
    Scenario.WORKLOADS.forEach(w -> csv.append(CsvCell.row(
        w.key(),
        w.name(),
        w.owner(),
        w.tier(),
        Needs.ofWorkload(w.key()),
        Quirks.dataClass(w.key()),
        Quirks.rto(w.key()))));
    return csv.toString();
  }

  static String resources(
      Predicate<ResourceRow> which, Instant now, Instant seen, long seed, String without) {
    StringBuilder csv = new StringBuilder(
        "key,name,kind,workload,parent,needs,site,region,environment,size,first_seen,last_seen,agent_seen,tags,important_paths,credentials_changed,credentials_tested,kit,kit_tried,runbook,runbook_tried,key_places,restorers\r\n");
    for (ResourceRow r : Scenario.RESOURCES) {
      if (which.test(r) && !r.key().equals(without)) {
        csv.append(resource(r, now, seen, seed));
      }
    }
    return csv.toString();
  }

  private static String resource(ResourceRow r, Instant now, Instant seen, long seed) {
    boolean test = r.key().startsWith("harbour-sim") && !r.key().equals("harbour-sim-4");
    Instant firstSeen = now.minus(Duration.ofDays(r.key().equals("harbour-sim-4") ? 9 : 245))
        .minus(Duration.ofHours(3));
    String protect = switch (r.plan()) {
      case GOLD -> "every-3-hours";
      case CHAIN -> "weekly-chain";
      case SLOW -> "daily-large";
      case DAILY -> Quirks.evening(r) ? "evening" : "daily";
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
        Quirks.parent(r),
        Needs.ofResource(r.key()),
        Quirks.site(r, now, seen),
        "nordal",
        test ? "test" : "production",
        size,
        firstSeen,
        seen,
        Quirks.agentSilentForDays(r) == null
            ? null
            : seen.minus(Duration.ofDays(Quirks.agentSilentForDays(r))),
        tags,
        Quirks.importantPaths(r),
        Quirks.credentials(r, now, 6, seen),
        Quirks.credentials(r, now, 20, seen),
        Besides.kit(r),
        Besides.kitTried(r, now),
        Besides.runbook(r),
        Besides.runbookTried(r, now),
        Besides.keyPlaces(r),
        Besides.restorers(r));
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
            now.minus(Duration.ofDays(7)))
        + CsvCell.row(
            "rota-abroad",
            json(Map.of("workload", "crew-rota")),
            "copies-residency",
            "Going off-site across the border on purpose; the works council has agreed",
            "operator",
            "approver",
            now.minus(Duration.ofDays(39)),
            now.plus(Duration.ofDays(200)))
        + CsvCell.row(
            "contest-copies",
            json(Map.of("workload", "photo-contest")),
            "copies-off-site",
            "The photos are with the newspaper too",
            "operator",
            "approver",
            now.minus(Duration.ofDays(39)),
            now.plus(Duration.ofDays(6)));
  }
}
