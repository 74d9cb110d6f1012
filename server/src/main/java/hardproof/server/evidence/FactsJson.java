package hardproof.server.evidence;

import hardproof.core.criteria.Standard;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.FactKinds;
import hardproof.core.wording.Coded;
import hardproof.server.criteria.StandardJson;
import hardproof.server.facts.Notations;
import hardproof.server.facts.SelectorJson;
import hardproof.server.integrity.ReadBackStore;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * {@code facts.json} of a pack: everything that is in the pack follows from it. What a verdict is computed
 * from, in the fields of the import bundle, with the standard and the instant; the title and the scope
 * that were asked for; and what is told of each drill.
 *
 * @param estate the facts, at the instant that is judged
 * @param runs of the drills that are among the facts, in the order of these; read-backs of sweeps have none
 * @param history what is told of the period before
 */
public record FactsJson(
    Estate estate,
    Standard standard,
    String title,
    Selector scope,
    List<RunDetail> runs,
    PackHistory history) {
  static final int VERSION = 8;
  // A name that is there twice could be read in two ways.
  static final JsonMapper JSON = JsonMapper.builder()
      .enable(SerializationFeature.INDENT_OUTPUT)
      .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
      .build();

  /** The instant that is judged. */
  public Instant asAt() {
    return estate.asAt();
  }

  /** The instant by which the facts were recorded; later than {@link #asAt} in hindsight. */
  public Instant knownAt() {
    return estate.knownAt();
  }

  /** All facts but points and copies, which {@link #estate} has. */
  public Facts facts() {
    return estate.facts();
  }

  FactsJson with(PackHistory other) {
    return new FactsJson(estate, standard, title, scope, runs, other);
  }

  /** As {@link #write(OutputStream)}. */
  public byte[] write() {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    write(bytes);
    return bytes.toByteArray();
  }

  /** The same facts always give the same bytes. Rows are made as they are written: no estate is too large. */
  public void write(OutputStream out) {
    // Whoever writes to the stream closes it.
    try (JsonGenerator json =
        JSON.writer().without(StreamWriteFeature.AUTO_CLOSE_TARGET).createGenerator(out)) {
      json.writeStartObject();
      json.writeNumberProperty("hard_proof_facts", VERSION);
      json.writeStringProperty("as_at", asAt().toString());
      json.writeStringProperty("known_at", knownAt().toString());
      json.writeStringProperty("title", title);
      json.writeStringProperty("scope", SelectorJson.write(scope));
      json.writePOJOProperty("standard", StandardJson.tree(standard));
      json.writePOJOProperty(
          "feeds", facts().feeds().stream().map(FactsJson::feedRow).toList());
      for (BundleFile type : BundleFile.values()) {
        write(type, json);
      }
      json.writePOJOProperty(
          "drills", facts().drills().stream().map(FactsJson::drillRow).toList());
      json.writePOJOProperty(
          RehearsalsJson.REHEARSALS,
          facts().rehearsals().stream().map(RehearsalsJson::row).toList());
      if (!facts().censuses().isEmpty()) {
        json.writePOJOProperty(
            CensusJson.CENSUSES,
            facts().censuses().stream().map(CensusJson::row).toList());
      }
      if (!facts().listings().isEmpty()) {
        json.writePOJOProperty(
            CensusJson.LISTINGS,
            facts().listings().stream().map(CensusJson::row).toList());
      }
      json.writePOJOProperty("runs", runs.stream().map(RunDetail::tree).toList());
      json.writePOJOProperty("history", history.tree());
      json.writeEndObject();
    }
  }

  private void write(BundleFile type, JsonGenerator json) {
    switch (type) {
      case STORES -> write(FactKinds.STORES, facts().stores(), json);
      case POLICIES -> write(FactKinds.POLICIES, facts().policies(), json);
      case WORKLOADS -> write(FactKinds.WORKLOADS, facts().workloads(), json);
      case RESOURCES -> write(FactKinds.RESOURCES, facts().resources(), json);
      case POINTS -> PointsJson.write(estate, json);
      case COPIES -> {
        // They stand with the points.
      }
      case JOBS -> write(FactKinds.JOBS, facts().jobs(), json);
      case EXCEPTIONS -> write(FactKinds.EXCEPTIONS, facts().exceptions(), json);
    }
  }

  /** Whether a fact is what a sweep read: those have no log, and their run names the read-back. */
  static boolean isReadBack(DrillFact fact) {
    return fact.method() == Method.READ_BACK;
  }

  /** The number of a read-back, by which the ledger knows it. */
  static String readBack(DrillFact fact) {
    return fact.run()
        .substring(fact.run().startsWith(ReadBackStore.RUN) ? ReadBackStore.RUN.length() : 0);
  }

  /** A drill with what is told of it. */
  record Told(DrillFact fact, RunDetail detail) {}

  /** The drills that have a log, in the order of the facts. */
  List<Told> told() {
    Map<String, RunDetail> byRun = new HashMap<>();
    runs.forEach(r -> byRun.put(r.run(), r));
    return facts().drills().stream()
        .filter(d -> byRun.containsKey(d.run()))
        .map(d -> new Told(d, byRun.get(d.run())))
        .toList();
  }

  /** Where facts and logs of drills do not belong together, each as a sentence; empty when they do. */
  List<String> contradictions() {
    List<String> found = new ArrayList<>();
    Map<String, DrillFact> drills = drillsByRun(found);
    Set<String> told = runsTold(found, drills);
    drills.keySet().stream()
        .filter(run -> !told.contains(run) && !isReadBack(drills.get(run)))
        .sorted()
        .forEach(run -> found.add("drill " + run + " has no log"));
    facts().drills().stream()
        .filter(d -> d.run().isEmpty() || d.run().startsWith(ReadBackStore.RUN) != isReadBack(d))
        .forEach(
            d -> found.add("a drill of " + d.resource() + " by " + d.method().words()
                + (d.run().isEmpty()
                    ? " has no run"
                    : " has the run " + d.run() + " of another kind")));
    found.addAll(RehearsalsJson.contradictions(facts().rehearsals(), facts().drills()));
    return found;
  }

  private Map<String, DrillFact> drillsByRun(List<String> found) {
    Map<String, DrillFact> drills = new HashMap<>();
    for (DrillFact drill : facts().drills()) {
      if (!drill.run().isEmpty() && drills.put(drill.run(), drill) != null) {
        found.add("drill " + drill.run() + " is among the facts twice");
      }
    }
    return drills;
  }

  private Set<String> runsTold(List<String> found, Map<String, DrillFact> drills) {
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
    return told;
  }

  private static <T> void write(FactKind<T> kind, List<T> facts, JsonGenerator json) {
    json.writeArrayPropertyStart(BundleFile.of(kind).code());
    for (T fact : facts) {
      json.writePOJO(row(kind, fact));
    }
    json.writeEndArray();
  }

  /** A row of the bundle, with what a bundle does not tell: who told, and what was written down here. */
  private static <T> Map<String, String> row(FactKind<T> kind, T fact) {
    Map<String, String> row = kind.row(fact, Notations.KEPT);
    if (fact instanceof Resource resource) {
      row.put("feed", resource.feed());
      put(row, "missing_since", resource.missingSince());
    } else if (fact instanceof AcceptedException exception) {
      row.remove("approved_by");
      put(row, "approved_by", exception.approvedBy());
      put(row, "refused_by", exception.refusedBy());
      put(row, "claimed_approver", exception.claimedApprover());
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
  public static FactsJson read(InputStream in) throws IOException {
    return FactsJsonReader.read(in);
  }

  /** As {@link #read(InputStream)}. */
  public static FactsJson read(byte[] bytes) throws IOException {
    return read(new ByteArrayInputStream(bytes));
  }
}
