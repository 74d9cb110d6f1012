package hardproof.server.evidence;

import hardproof.core.census.CensusFact;
import hardproof.core.census.CensusState;
import hardproof.core.census.StoreListing;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.estate.AcceptedException;
import hardproof.core.programmes.Draw;
import hardproof.server.runs.CheckJson;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/**
 * Compares facts of a pack with what the ledger has of them, field by field.
 *
 * @param wrong told what differs, with both
 */
record EntryComparison(List<String> wrong) {
  void drill(FactsJson.Told told, JsonNode entry) {
    String what = "drill " + told.fact().run();
    JsonNode content = entry.path("content");
    differing(told(told, content), content, what);
    checks(told.detail(), content, what);
    same("actor", told.detail().requestedBy(), entry.path("actor"), what);
  }

  void rehearsal(RehearsalFact fact, JsonNode entry) {
    Map<String, @Nullable Object> content = new LinkedHashMap<>();
    JsonNode recorded = entry.path("content");
    content.put("workload", fact.workload());
    content.put("moment", fact.moment());
    content.put("loss", fact.loss());
    content.put("outcome", fact.outcome().code());
    // One that never began has no such time of its own.
    content.put("started_at", recorded.path("started_at").isMissingNode() ? null : fact.started());
    content.put("ended_at", fact.ended());
    content.put("clock_ms", fact.clock().toMillis());
    content.put("expected_ms", fact.expected() == null ? null : fact.expected().toMillis());
    content.put("sentence", fact.sentence());
    String what = "rehearsal " + fact.id();
    differing(content, recorded, what);
    List<List<String>> members = new ArrayList<>();
    recorded
        .path("steps")
        .forEach(m -> members.add(member(
            m.path("resource").asString(""),
            m.path("run").asString(""),
            m.path("run").isMissingNode() ? "" : m.path("store").asString(""))));
    List<List<String>> told = fact.members().stream()
        .map(m -> member(
            m.resource(), m.run() == null ? "" : m.run(), m.store() == null ? "" : m.store()))
        .toList();
    if (!members.equals(told)) {
      wrong.add(what + ": its members are " + told + ", and the ledger has " + members);
    }
  }

  private static List<String> member(String resource, String run, String store) {
    return List.of(resource, run, store);
  }

  /**
   * @param census the entry of the list it was found in
   * @param found its own, where it is not as claimed
   */
  void census(CensusFact fact, JsonNode census, JsonNode found, String what) {
    Map<String, @Nullable Object> list = new LinkedHashMap<>();
    list.put("store", fact.store());
    list.put("state", "done");
    differing(list, census.path("content"), what);
    same("at", fact.at().toString(), census.path("at"), what);
    if (fact.state() != CensusState.HELD) {
      Map<String, @Nullable Object> content = new LinkedHashMap<>();
      content.put("resource", fact.resource());
      content.put("point", fact.point());
      content.put("store", fact.store());
      content.put("state", fact.state().code());
      content.put(
          "locked_until", fact.lockedUntil() == null ? null : fact.lockedUntil().toString());
      content.put("sentence", fact.sentence());
      differing(content, found.path("content"), what);
    }
  }

  /**
   * @param census the entry of the list
   */
  void listing(StoreListing listing, JsonNode census, String what) {
    Map<String, @Nullable Object> content = new LinkedHashMap<>();
    content.put("store", listing.store());
    content.put("state", listing.whole() ? "done" : "failed");
    content.put("listed", listing.things());
    content.put("listed_bytes", listing.bytes());
    content.put("untold", listing.untold());
    content.put("untold_bytes", listing.untoldBytes());
    content.put("sentence", listing.sentence());
    differing(content, census.path("content"), what);
    same("at", listing.at().toString(), census.path("at"), what);
  }

  void readBack(DrillFact fact, JsonNode entry) {
    differing(shown(fact), entry.path("content"), fact.run());
  }

  void draw(PackHistory.PackDraw draw, JsonNode entry) {
    Map<String, @Nullable Object> content = new LinkedHashMap<>();
    Draw again = draw.again();
    content.put("known", draw.known());
    content.put("seed", again.seed());
    content.put("digest", again.digest());
    content.put("sample", draw.sample());
    differing(content, entry.path("content"), "draw of " + draw.programme() + " at " + draw.due());
  }

  void exception(AcceptedException exception, JsonNode entry) {
    differing(exception(exception), entry.path("content"), "exception " + exception.key());
  }

  /** What an entry has of a drill and of a read-back, as the facts of the pack tell it. */
  private static Map<String, @Nullable Object> shown(DrillFact fact) {
    Map<String, @Nullable Object> content = new LinkedHashMap<>();
    content.put("resource", fact.resource());
    content.put("point", fact.point());
    content.put("store", fact.store());
    content.put("reaches", fact.reaches().code());
    content.put("restore", fact.restore().code());
    content.put("checks", fact.checks().code());
    content.put("started_at", fact.started());
    content.put("ended_at", fact.ended());
    content.put("bytes", fact.bytes());
    content.put("sentence", fact.sentence());
    return content;
  }

  private static Map<String, @Nullable Object> told(FactsJson.Told told, JsonNode recorded) {
    DrillFact fact = told.fact();
    Map<String, @Nullable Object> content = shown(fact);
    content.put("method", fact.method().code());
    content.put("blamed_point", fact.blamedPoint());
    content.put("blamed_store", fact.blamedStore());
    content.put("reason", told.detail().reason());
    content.put("queued_at", told.detail().queuedAt());
    content.put("newest_data", told.detail().newestData());
    content.put("steps", steps(told.detail()));
    content.put("worked_until", fact.worked());
    // One that never began, and one that nobody's word was waited for, have no such time of their
    // own.
    if (recorded.path("started_at").isMissingNode()
        && fact.started().equals(told.detail().queuedAt())) {
      content.put("started_at", null);
    }
    if (recorded.path("worked_until").isMissingNode() && fact.worked().equals(fact.ended())) {
      content.put("worked_until", null);
    }
    return content;
  }

  private static String steps(RunDetail detail) {
    StringBuilder steps = new StringBuilder();
    for (RunDetail.Step step : detail.steps()) {
      steps
          .append(step.name())
          .append('\n')
          .append(step.state().code())
          .append('\n')
          .append(step.startedAt() == null ? "" : step.startedAt())
          .append('\n')
          .append(step.message())
          .append('\n');
    }
    return steps.toString();
  }

  private static Map<String, @Nullable Object> exception(AcceptedException exception) {
    Map<String, @Nullable Object> content = new LinkedHashMap<>();
    content.put("criterion", exception.criterion());
    content.put("reason", exception.reason());
    content.put("proposed_by", exception.proposedBy());
    content.put("approved_by", exception.approvedBy());
    content.put("from_time", exception.from());
    content.put("until_time", exception.until());
    return content;
  }

  /** What was asked of the restored data, in words as in the log. */
  private void checks(RunDetail detail, JsonNode recorded, String what) {
    List<String> asked;
    try {
      asked = RunDetail.words(CheckJson.read(recorded.path("checks_asked").asString("[]")));
    } catch (JacksonException | IllegalArgumentException e) {
      asked = List.of("what can't be read");
    }
    if (!asked.equals(detail.checks())) {
      wrong.add(what + ": it was asked '" + String.join("; ", detail.checks())
          + "', and the ledger has '" + String.join("; ", asked) + "'");
    }
  }

  private void differing(Map<String, @Nullable Object> fact, JsonNode recorded, String what) {
    fact.forEach((field, value) -> same(field, value, recorded.path(field), what));
  }

  void same(String field, @Nullable Object value, JsonNode recorded, String what) {
    String was = field.equals("steps") ? steps(recorded) : text(recorded);
    String is = value == null ? null : value.toString();
    if (value instanceof Instant instant) {
      is = Instant.ofEpochMilli(instant.toEpochMilli()).toString();
    }
    if (!Objects.equals(is, was)) {
      wrong.add(what + ": its " + field.replace('_', ' ') + " is '" + is + "', and the ledger has '"
          + was + "'");
    }
  }

  private static String steps(JsonNode recorded) {
    StringBuilder steps = new StringBuilder();
    recorded.forEach(s -> steps
        .append(s.path("name").asString(""))
        .append('\n')
        .append(s.path("state").asString(""))
        .append('\n')
        .append(s.path("started_at").asString(""))
        .append('\n')
        .append(s.path("message").asString(""))
        .append('\n'));
    return steps.toString();
  }

  private static @Nullable String text(JsonNode value) {
    return value.isMissingNode() || value.isNull()
        ? null
        : value.isString() ? value.asString() : value.toString();
  }
}
