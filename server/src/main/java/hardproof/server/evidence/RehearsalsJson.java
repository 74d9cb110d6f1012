package hardproof.server.evidence;

import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.rehearsals.RehearsalClock;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Rehearsals in {@code facts.json}, and whether they fit to the drills there. */
final class RehearsalsJson {
  static final String REHEARSALS = "rehearsals";

  private RehearsalsJson() {}

  static ObjectNode row(RehearsalFact r) {
    ObjectNode row = FactsJson.JSON.createObjectNode();
    row.put("id", r.id());
    row.put("workload", r.workload());
    row.put("moment", r.moment().toString());
    if (r.loss() != null) {
      row.put("loss", r.loss());
    }
    row.put("outcome", r.outcome().code());
    row.put("started", r.started().toString());
    row.put("ended", r.ended().toString());
    row.put("clock", r.clock().toString());
    if (r.expected() != null) {
      row.put("expected", r.expected().toString());
    }
    ArrayNode members = row.putArray("members");
    for (RehearsalFact.Member member : r.members()) {
      ObjectNode one = members.addObject().put("resource", member.resource());
      if (member.run() != null) {
        one.put("run", member.run()).put("store", member.store());
      }
    }
    row.put("sentence", r.sentence());
    return row;
  }

  static List<RehearsalFact> read(JsonNode rows) {
    List<RehearsalFact> all = new ArrayList<>();
    rows.forEach(r -> all.add(rehearsal(r)));
    return all;
  }

  private static RehearsalFact rehearsal(JsonNode r) {
    List<RehearsalFact.Member> members = new ArrayList<>();
    for (JsonNode m : r.path("members")) {
      members.add(new RehearsalFact.Member(need(m, "resource"), text(m, "run"), text(m, "store")));
    }
    return new RehearsalFact(
        need(r, "id"),
        need(r, "workload"),
        Instant.parse(need(r, "moment")),
        text(r, "loss"),
        Coded.of(RehearsalFact.Outcome.class, need(r, "outcome")),
        Instant.parse(need(r, "started")),
        Instant.parse(need(r, "ended")),
        Duration.parse(need(r, "clock")),
        text(r, "expected") == null ? null : Duration.parse(text(r, "expected")),
        members,
        need(r, "sentence"));
  }

  private static String need(JsonNode row, String field) {
    String value = text(row, field);
    if (value == null) {
      throw new WrongValue("there is no " + field + " of a rehearsal");
    }
    return value;
  }

  private static @Nullable String text(JsonNode row, String field) {
    return row.path(field).isString() ? row.path(field).asString() : null;
  }

  /** Where they do not belong to the drills that they name, each as a sentence; drills of other scopes may be missing. */
  static List<String> contradictions(List<RehearsalFact> rehearsals, List<DrillFact> drills) {
    Map<String, DrillFact> byRun = new HashMap<>();
    drills.forEach(d -> byRun.put(d.run(), d));
    Set<String> ids = new HashSet<>();
    List<String> found = new ArrayList<>();
    for (RehearsalFact r : rehearsals) {
      if (!ids.add(r.id())) {
        found.add("rehearsal " + r.id() + " is among the facts twice");
      }
      String wrong = contradiction(r, byRun);
      if (wrong != null) {
        found.add("rehearsal " + r.id() + ": " + wrong);
      }
    }
    return found;
  }

  private static @Nullable String contradiction(RehearsalFact r, Map<String, DrillFact> byRun) {
    List<RehearsalClock.Work> works = new ArrayList<>();
    boolean all = true;
    for (RehearsalFact.Member member : r.members()) {
      DrillFact drill = member.run() == null ? null : byRun.get(member.run());
      if (drill == null) {
        all &= member.run() == null;
        continue;
      }
      if (!drill.resource().equals(member.resource()) || !drill.store().equals(member.store())) {
        return "drill " + drill.run() + " is of another resource or store";
      }
      if (r.passed() && !drill.passed()) {
        return "it passed, and drill " + drill.run() + " of it did not";
      }
      works.add(new RehearsalClock.Work(drill.started(), drill.worked(), drill.ended()));
    }
    Duration clock = RehearsalClock.of(r.started(), works);
    return r.passed() && all && !Objects.equals(clock, r.clock())
        ? "its drills took " + clock + ", not " + r.clock()
        : null;
  }
}
