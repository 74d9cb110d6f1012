package hardproof.server.evidence;

import hardproof.core.copies.Copy;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.facts.Facts;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.FactKinds;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.RawRow;
import hardproof.core.ladder.Rung;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import hardproof.server.criteria.StandardJson;
import hardproof.server.estate.Notations;
import hardproof.server.estate.SelectorJson;
import java.io.IOException;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * {@code facts.json} of a pack: everything that is in the pack follows from it. What a verdict is computed
 * from, in the fields of the import bundle, with the standard and the instant; the title and the scope
 * that were asked for; and what is told of each drill.
 *
 * @param asAt the instant that is judged
 * @param knownAt the instant by which the facts were recorded; later than {@code asAt} in hindsight
 * @param runs of the drills that are among the facts, in the order of these; read-backs of sweeps have none
 */
public record FactsJson(
    Instant asAt,
    Instant knownAt,
    Standard standard,
    String title,
    Selector scope,
    Facts facts,
    List<RunDetail> runs) {
  private static final int VERSION = 4;
  // A name that is there twice could be read in two ways.
  private static final JsonMapper JSON = JsonMapper.builder()
      .enable(SerializationFeature.INDENT_OUTPUT)
      .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
      .build();

  /** The same facts always give the same bytes. */
  public byte[] write() {
    Map<String, Object> root = new LinkedHashMap<>();
    root.put("hard_proof_facts", VERSION);
    root.put("as_at", asAt.toString());
    root.put("known_at", knownAt.toString());
    root.put("title", title);
    root.put("scope", SelectorJson.write(scope));
    root.put("standard", StandardJson.tree(standard));
    root.put("feeds", facts.feeds().stream().map(FactsJson::feedRow).toList());
    for (BundleFile type : BundleFile.values()) {
      root.put(type.code(), rows(type));
    }
    root.put("drills", facts.drills().stream().map(FactsJson::drillRow).toList());
    root.put("runs", runs.stream().map(RunDetail::tree).toList());
    return JSON.writeValueAsBytes(root);
  }

  /** A drill with what is told of it. */
  record Told(DrillFact fact, RunDetail detail) {}

  /** The drills that have a log, in the order of the facts. */
  List<Told> told() {
    Map<String, RunDetail> byRun = new HashMap<>();
    runs.forEach(r -> byRun.put(r.run(), r));
    return facts.drills().stream()
        .filter(d -> byRun.containsKey(d.run()))
        .map(d -> new Told(d, byRun.get(d.run())))
        .toList();
  }

  /** Where facts and logs of drills do not belong together, each as a sentence; empty when they do. */
  List<String> contradictions() {
    List<String> found = new ArrayList<>();
    Map<String, DrillFact> drills = new HashMap<>();
    for (DrillFact drill : facts.drills()) {
      if (!drill.run().isEmpty() && drills.put(drill.run(), drill) != null) {
        found.add("drill " + drill.run() + " is among the facts twice");
      }
    }
    Set<String> told = new HashSet<>();
    for (RunDetail run : runs) {
      DrillFact fact = drills.get(run.run());
      String contradiction = fact == null
          ? "the log of drill " + run.run() + " belongs to no fact"
          : !told.add(run.run()) ? "drill " + run.run() + " has two logs" : run.contradiction(fact);
      if (contradiction != null) {
        found.add(contradiction);
      }
    }
    drills.keySet().stream()
        .filter(run -> !told.contains(run))
        .sorted()
        .forEach(run -> found.add("drill " + run + " has no log"));
    facts.drills().stream()
        .filter(d -> d.run().isEmpty() != (d.method() == Method.READ_BACK))
        .forEach(
            d -> found.add("a drill of " + d.resource() + " by " + d.method().words()
                + (d.run().isEmpty() ? " has no run" : " has a run, and sweeps have none")));
    return found;
  }

  private List<Map<String, String>> rows(BundleFile type) {
    return switch (type) {
      case STORES -> rows(FactKinds.STORES, facts.stores());
      case POLICIES -> rows(FactKinds.POLICIES, facts.policies());
      case WORKLOADS -> rows(FactKinds.WORKLOADS, facts.workloads());
      case RESOURCES -> rows(FactKinds.RESOURCES, facts.resources());
      case POINTS -> rows(FactKinds.POINTS, facts.points());
      case COPIES -> rows(FactKinds.COPIES, facts.copies());
      case JOBS -> rows(FactKinds.JOBS, facts.jobs());
      case EXCEPTIONS -> rows(FactKinds.EXCEPTIONS, facts.exceptions());
    };
  }

  private static <T> List<Map<String, String>> rows(FactKind<T> kind, List<T> facts) {
    return facts.stream().map(f -> row(kind, f)).toList();
  }

  /** A row of the bundle, with what a bundle does not tell: who told, and what was written down here. */
  private static <T> Map<String, String> row(FactKind<T> kind, T fact) {
    Map<String, String> row = kind.row(fact, Notations.KEPT);
    if (fact instanceof Resource resource) {
      row.put("feed", resource.feed());
      put(row, "missing_since", resource.missingSince());
    } else if (fact instanceof RecoveryPoint point) {
      row.put("feed", point.feed());
    } else if (fact instanceof AcceptedException exception) {
      row.remove("approved_by");
      put(row, "approved_by", exception.approvedBy());
      put(row, "refused_by", exception.refusedBy());
      put(row, "claimed_approver", exception.claimedApprover());
    } else if (fact instanceof Copy copy) {
      row.put("recorded_at", copy.recordedAt().toString());
      put(row, "feed", copy.feed());
    }
    return row;
  }

  private static Map<String, String> feedRow(Feed feed) {
    Map<String, String> row = new LinkedHashMap<>();
    row.put("key", feed.key());
    put(row, "expected_every", feed.expectedEvery());
    put(row, "last_received", feed.lastReceived());
    put(row, "horizon", feed.horizon());
    return row;
  }

  private static void put(Map<String, String> row, String field, Object value) {
    if (value != null) {
      row.put(field, value instanceof Coded code ? code.code() : value.toString());
    }
  }

  private static Map<String, String> drillRow(DrillFact d) {
    Map<String, String> row = new LinkedHashMap<>();
    put(row, "run", d.run());
    put(row, "resource", d.resource());
    put(row, "point", d.point());
    put(row, "store", d.store());
    put(row, "method", d.method());
    put(row, "reaches", d.reaches());
    put(row, "restore", d.restore());
    put(row, "checks", d.checks());
    put(row, "clean_up", d.cleanup());
    put(row, "started", d.started());
    put(row, "worked", d.worked());
    put(row, "ended", d.ended());
    put(row, "bytes", d.bytes());
    put(row, "blamed_point", d.blamedPoint());
    put(row, "blamed_store", d.blamedStore());
    put(row, "sentence", d.sentence());
    return row;
  }

  /**
   * Reads what {@link #write} wrote.
   *
   * @throws IOException when it is not that, with the place
   */
  public static FactsJson read(byte[] bytes) throws IOException {
    try {
      JsonNode root = JSON.readTree(bytes);
      if (root.path("hard_proof_facts").asInt(0) != VERSION) {
        throw new IOException("facts.json is not of a version that this program reads");
      }
      Instant asAt = Instant.parse(root.path("as_at").asString());
      Instant knownAt = Instant.parse(root.path("known_at").asString());
      if (knownAt.isBefore(asAt)) {
        throw new IOException("facts.json says what was known before the instant that it tells of");
      }
      List<RunDetail> runs = new ArrayList<>();
      root.path("runs").forEach(r -> runs.add(RunDetail.read(r)));
      return new FactsJson(
          asAt,
          knownAt,
          StandardJson.read(root.path("standard")),
          root.path("title").asString(),
          SelectorJson.read(root.path("scope").asString()),
          facts(root, knownAt),
          runs);
    } catch (JacksonException | DateTimeException | IllegalArgumentException e) {
      throw new IOException("facts.json can't be read: " + e.getMessage(), e);
    }
  }

  private static Facts facts(JsonNode root, Instant knownAt) throws IOException {
    List<Feed> feeds = new ArrayList<>();
    for (JsonNode f : root.path("feeds")) {
      Map<String, String> row = row(f);
      feeds.add(new Feed(
          row.get("key"),
          row.get("expected_every") == null ? null : Duration.parse(row.get("expected_every")),
          instant(row.get("last_received")),
          instant(row.get("horizon"))));
    }
    List<DrillFact> drills = new ArrayList<>();
    for (JsonNode d : root.path("drills")) {
      drills.add(drill(row(d)));
    }
    return new Facts(
        feeds,
        facts(root, FactKinds.WORKLOADS, knownAt),
        facts(root, FactKinds.RESOURCES, knownAt),
        facts(root, FactKinds.STORES, knownAt),
        facts(root, FactKinds.POLICIES, knownAt),
        facts(root, FactKinds.POINTS, knownAt),
        facts(root, FactKinds.COPIES, knownAt),
        facts(root, FactKinds.JOBS, knownAt),
        facts(root, FactKinds.EXCEPTIONS, knownAt),
        drills);
  }

  private static Instant instant(String text) {
    return text == null ? null : Instant.parse(text);
  }

  private static <T> List<T> facts(JsonNode root, FactKind<T> kind, Instant knownAt)
      throws IOException {
    String file = BundleFile.of(kind).code();
    List<T> facts = new ArrayList<>();
    long number = 0;
    for (JsonNode item : root.path(file)) {
      FactReader.Read<T> read = fact(kind, row(item), ++number, knownAt);
      if (!read.rejections().isEmpty()) {
        throw new IOException(file + ": " + read.rejections().get(0).sentence());
      }
      facts.add(read.fact());
    }
    return facts;
  }

  /** What a bundle does not tell is put to what it does. */
  @SuppressWarnings("unchecked")
  private static <T> FactReader.Read<T> fact(
      FactKind<T> kind, Map<String, String> values, long number, Instant knownAt) {
    String feed = values.remove("feed");
    String recordedAt = values.remove("recorded_at");
    String missingSince = values.remove("missing_since");
    String refusedBy = values.remove("refused_by");
    String approvedBy = kind == FactKinds.EXCEPTIONS ? values.remove("approved_by") : null;
    String claimed = values.remove("claimed_approver");
    if (claimed != null) {
      values.put("approved_by", claimed);
    }
    Instant recorded = kind == FactKinds.COPIES
        ? Instant.parse(Objects.requireNonNullElse(recordedAt, ""))
        : knownAt;
    FactReader.Read<T> read = new FactReader(feed, knownAt, recorded, Notations.KEPT)
        .read(kind, "facts.json", new RawRow(number, values));
    Object fact = read.fact();
    if (fact instanceof Resource resource && missingSince != null) {
      fact = resource.missing(Instant.parse(missingSince));
    } else if (fact instanceof AcceptedException exception) {
      fact = refusedBy != null
          ? exception.refused(refusedBy)
          : approvedBy != null ? exception.approved(approvedBy) : exception;
    }
    return new FactReader.Read<>((T) fact, read.rejections());
  }

  private static Map<String, String> row(JsonNode node) {
    Map<String, String> row = new LinkedHashMap<>();
    node.properties().forEach(e -> row.put(e.getKey(), e.getValue().asString()));
    return row;
  }

  private static DrillFact drill(Map<String, String> r) {
    return new DrillFact(
        need(r, "run"),
        new DrillFact.Of(need(r, "resource"), need(r, "point"), need(r, "store")),
        Coded.of(Method.class, need(r, "method")),
        Coded.of(Rung.class, need(r, "reaches")),
        new DrillFact.Answers(
            Coded.of(RestoreState.class, need(r, "restore")),
            Coded.of(ChecksState.class, need(r, "checks")),
            Coded.of(CleanupState.class, need(r, "clean_up"))),
        new DrillFact.Times(
            Instant.parse(need(r, "started")),
            Instant.parse(r.getOrDefault("worked", need(r, "ended"))),
            Instant.parse(need(r, "ended"))),
        Long.parseLong(need(r, "bytes")),
        new DrillFact.Blame(r.get("blamed_point"), r.get("blamed_store")),
        need(r, "sentence"));
  }

  private static String need(Map<String, String> row, String field) {
    String value = row.get(field);
    if (value == null) {
      throw new WrongValue("there is no " + field);
    }
    return value;
  }
}
