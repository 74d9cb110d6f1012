package hardproof.server.evidence;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.facts.PointSource;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.FactKinds;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.RawRow;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import hardproof.server.criteria.StandardJson;
import hardproof.server.facts.KnownPoints;
import hardproof.server.facts.Notations;
import hardproof.server.facts.SelectorJson;
import java.io.IOException;
import java.io.InputStream;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Reads the facts of a pack; what is there twice, or belongs to no kind of fact, is refused. */
final class FactsJsonReader {
  /**
   * Reads what {@link FactsJson#write} wrote.
   *
   * @throws IOException when it is not that, with the place
   */
  static FactsJson read(InputStream in) throws IOException {
    try (JsonParser json = FactsJson.JSON.createParser(in)) {
      return new FactsJsonReader().read(json);
    } catch (JacksonException | DateTimeException | IllegalArgumentException e) {
      throw new IOException("facts.json can't be read: " + e.getMessage(), e);
    }
  }

  /** All but the points, which are too many to be held like that. */
  private final ObjectNode root = FactsJson.JSON.createObjectNode();

  private @Nullable Instant knownAt;
  private PointSource points = KnownPoints.of(Map.of());

  private FactsJsonReader() {}

  private FactsJson read(JsonParser json) throws IOException {
    if (json.nextToken() != JsonToken.START_OBJECT) {
      throw new IOException("facts.json is no object");
    }
    while (json.nextToken() == JsonToken.PROPERTY_NAME) {
      String name = json.currentName();
      json.nextToken();
      if (name.equals(PointsJson.POINTS)) {
        points = new PointsJson(knownAt()).read(json);
      } else {
        root.set(name, json.<JsonNode>readValueAsTree());
      }
    }
    if (json.nextToken() != null) {
      throw new IOException("facts.json goes on after its end");
    }
    requireVersion();
    Instant asAt = Instant.parse(root.path("as_at").asString());
    if (knownAt().isBefore(asAt)) {
      throw new IOException("facts.json says what was known before the instant that it tells of");
    }
    List<RunDetail> runs = new ArrayList<>();
    root.path("runs").forEach(r -> runs.add(RunDetail.read(r)));
    return new FactsJson(
        new Estate(asAt, knownAt(), facts(), points),
        StandardJson.read(root.path("standard")),
        root.path("title").asString(),
        SelectorJson.read(root.path("scope").asString()),
        runs,
        PackHistory.read(root.required("history")));
  }

  private void requireVersion() throws IOException {
    if (root.path("hard_proof_facts").asInt(0) != FactsJson.VERSION) {
      throw new IOException("facts.json is not of a version that this program reads");
    }
  }

  /** Points are held to it while they are read, so it stands before them. */
  private Instant knownAt() throws IOException {
    if (knownAt == null) {
      requireVersion();
      knownAt = Instant.parse(root.path("known_at").asString());
    }
    return knownAt;
  }

  private Facts facts() throws IOException {
    return new Facts(
        feeds(root),
        facts(FactKinds.WORKLOADS),
        facts(FactKinds.RESOURCES),
        facts(FactKinds.STORES),
        facts(FactKinds.POLICIES),
        List.of(),
        List.of(),
        facts(FactKinds.JOBS),
        facts(FactKinds.EXCEPTIONS),
        drills(root),
        RehearsalsJson.read(root.path(RehearsalsJson.REHEARSALS)),
        CensusJson.read(root.path(CensusJson.CENSUSES)),
        CensusJson.readListings(root.path(CensusJson.LISTINGS)));
  }

  private static List<Feed> feeds(JsonNode root) {
    List<Feed> feeds = new ArrayList<>();
    for (JsonNode f : root.path("feeds")) {
      Map<String, String> row = row(f);
      feeds.add(new Feed(
          row.get("key"),
          row.get("expected_every") == null ? null : Duration.parse(row.get("expected_every")),
          instant(row.get("last_received")),
          instant(row.get("horizon"))));
    }
    return feeds;
  }

  private static List<DrillFact> drills(JsonNode root) {
    List<DrillFact> drills = new ArrayList<>();
    for (JsonNode d : root.path("drills")) {
      drills.add(drill(row(d)));
    }
    return drills;
  }

  private static Instant instant(String text) {
    return text == null ? null : Instant.parse(text);
  }

  private <T> List<T> facts(FactKind<T> kind) throws IOException {
    String file = BundleFile.of(kind).code();
    List<T> facts = new ArrayList<>();
    long number = 0;
    for (JsonNode item : root.path(file)) {
      FactReader.Read<T> read = fact(kind, row(item), ++number, knownAt());
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
    String missingSince = values.remove("missing_since");
    String refusedBy = values.remove("refused_by");
    String approvedBy = kind == FactKinds.EXCEPTIONS ? values.remove("approved_by") : null;
    String claimed = values.remove("claimed_approver");
    if (claimed != null) {
      values.put("approved_by", claimed);
    }
    FactReader.Read<T> read = new FactReader(feed, knownAt, Notations.KEPT)
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
        answers(r),
        times(r),
        Long.parseLong(need(r, "bytes")),
        new DrillFact.Blame(r.get("blamed_point"), r.get("blamed_store")),
        need(r, "sentence"));
  }

  private static DrillFact.Answers answers(Map<String, String> r) {
    return new DrillFact.Answers(
        Coded.of(RestoreState.class, need(r, "restore")),
        Coded.of(ChecksState.class, need(r, "checks")),
        Coded.of(CleanupState.class, need(r, "clean_up")));
  }

  private static DrillFact.Times times(Map<String, String> r) {
    return new DrillFact.Times(
        Instant.parse(need(r, "started")),
        Instant.parse(r.getOrDefault("worked", need(r, "ended"))),
        Instant.parse(need(r, "ended")));
  }

  private static String need(Map<String, String> row, String field) {
    String value = row.get(field);
    if (value == null) {
      throw new WrongValue("there is no " + field);
    }
    return value;
  }
}
