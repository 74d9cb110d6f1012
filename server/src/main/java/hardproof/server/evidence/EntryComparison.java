package hardproof.server.evidence;

import hardproof.core.drills.DrillFact;
import hardproof.core.estate.AcceptedException;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * Compares facts of a pack with what the ledger has of them, field by field.
 *
 * @param wrong told what differs, with both
 */
record EntryComparison(List<String> wrong) {
  void drill(FactsJson.Told told, JsonNode entry) {
    String what = "drill " + told.fact().run();
    differing(drill(told), entry.path("content"), what);
    same("actor", told.detail().requestedBy(), entry.path("actor"), what);
  }

  void exception(AcceptedException exception, JsonNode entry) {
    differing(exception(exception), entry.path("content"), "exception " + exception.key());
  }

  /** What an entry has of a drill, as the facts of the pack tell it. */
  private static Map<String, @Nullable Object> drill(FactsJson.Told told) {
    DrillFact fact = told.fact();
    Map<String, @Nullable Object> content = new LinkedHashMap<>();
    content.put("resource", fact.resource());
    content.put("point", fact.point());
    content.put("store", fact.store());
    content.put("method", fact.method().code());
    content.put("reaches", fact.reaches().code());
    content.put("restore", fact.answers().restore().code());
    content.put("checks", fact.answers().checks().code());
    content.put("ended_at", fact.ended());
    content.put("bytes", fact.bytes());
    content.put("blamed_point", fact.blamedPoint());
    content.put("blamed_store", fact.blame().blamedStore());
    content.put("sentence", fact.sentence());
    content.put("reason", told.detail().reason());
    content.put("queued_at", told.detail().queuedAt());
    content.put("newest_data", told.detail().newestData());
    content.put("steps", steps(told.detail()));
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
