package hardproof.server.evidence;

import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RestoreState;
import hardproof.core.wording.Coded;
import hardproof.proving.checks.Check;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.drills.StepState;
import hardproof.server.runs.Run;
import hardproof.server.runs.ScreenStore;
import hardproof.server.runs.ScreenStore.RunScreen;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * What a pack tells of a drill beyond the fact that a verdict rests on: who asked for it and why, what was
 * asked of the restored data, and its steps.
 *
 * @param newestData the newest time that was found in the data; null when none was looked for
 * @param checks what was asked, each in words
 * @param screens what a machine showed, oldest first
 */
record RunDetail(
    String run,
    String requestedBy,
    String reason,
    Instant queuedAt,
    @Nullable Instant newestData,
    List<String> checks,
    List<Step> steps,
    List<Picture> screens) {
  RunDetail {
    screens = List.copyOf(screens);
    checks = List.copyOf(checks);
    steps = List.copyOf(steps);
  }

  /** A step, in their order; {@code startedAt} null for one that never began. */
  record Step(String name, StepState state, Instant startedAt, String message) {}

  /**
   * A picture of a screen, which lies beside the log.
   *
   * @param atMs of the machine's own time
   * @param concluded what was concluded of it; null where nothing was
   */
  record Picture(int number, long atMs, @Nullable String concluded, String sha256) {}

  static RunDetail of(Run run, List<RunScreen> screens) {
    return new RunDetail(
        run.id(),
        run.requestedBy(),
        run.reason(),
        run.queuedAt(),
        run.newestData(),
        words(run.checksAsked()),
        run.steps().stream()
            .map(s -> new Step(s.name(), s.state(), s.startedAt(), s.message()))
            .toList(),
        screens.stream()
            .filter(s -> s.number() != ScreenStore.LIVE)
            .map(s -> new Picture(s.number(), s.atMs(), s.screenClass(), Sha256.of(s.png())))
            .toList());
  }

  /** What was asked of the restored data, each in words. */
  static List<String> words(List<Check> checks) {
    return checks.stream()
        .map(c -> c.title() + (c.expected().isEmpty() ? "" : " = " + c.expected()))
        .toList();
  }

  /** How the steps speak against what the fact says; null when they do not. */
  String contradiction(DrillFact fact) {
    Step failed =
        steps.stream().filter(s -> s.state() == StepState.FAILED).findFirst().orElse(null);
    boolean undone = steps.stream().anyMatch(s -> s.state() != StepState.DONE);
    // A sandbox that could not be removed is a failure of its own, after what was shown.
    boolean onlyTheLast =
        failed != null && failed == steps.get(steps.size() - 1) && steps.size() > 1;
    if (fact.passed() && undone && !onlyTheLast) {
      return "drill " + run + " passed by its fact, and a step of its log was not done";
    }
    if (fact.passed() && steps.isEmpty()) {
      return "drill " + run + " passed by its fact, and its log has no step";
    }
    // Whoever answers from outside has no step; a restore has.
    if (fact.restore() == RestoreState.FAILED && failed == null && !steps.isEmpty()) {
      return "drill " + run + " failed by its fact, and no step of its log did";
    }
    return null;
  }

  Map<String, Object> tree() {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("run", run);
    row.put("asked_by", requestedBy);
    row.put("reason", reason);
    row.put("queued", queuedAt.toString());
    if (newestData != null) {
      row.put("newest_data", newestData.toString());
    }
    row.put("checks", checks);
    List<Map<String, String>> rows = stepRows();
    row.put("steps", rows);
    if (!screens.isEmpty()) {
      row.put("screens", screens.stream().map(RunDetail::tree).toList());
    }
    return row;
  }

  private static Map<String, Object> tree(Picture picture) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("number", picture.number());
    row.put("at_ms", picture.atMs());
    if (picture.concluded() != null) {
      row.put("concluded", picture.concluded());
    }
    row.put("sha256", picture.sha256());
    return row;
  }

  private List<Map<String, String>> stepRows() {
    List<Map<String, String>> rows = new ArrayList<>();
    for (Step step : steps) {
      Map<String, String> one = new LinkedHashMap<>();
      one.put("name", step.name());
      one.put("state", step.state().code());
      if (step.startedAt() != null) {
        one.put("started", step.startedAt().toString());
      }
      one.put("message", step.message());
      rows.add(one);
    }
    return rows;
  }

  static RunDetail read(JsonNode node) {
    List<String> checks = new ArrayList<>();
    node.path("checks").forEach(c -> checks.add(c.asString()));
    List<Step> steps = steps(node);
    return new RunDetail(
        node.path("run").asString(),
        node.path("asked_by").asString(),
        node.path("reason").asString(),
        instant(node, "queued"),
        instant(node, "newest_data"),
        checks,
        steps,
        pictures(node));
  }

  private static List<Picture> pictures(JsonNode node) {
    List<Picture> pictures = new ArrayList<>();
    for (JsonNode p : node.path("screens")) {
      pictures.add(new Picture(
          p.path("number").asInt(),
          p.path("at_ms").asLong(),
          p.has("concluded") ? p.path("concluded").asString() : null,
          p.path("sha256").asString()));
    }
    return pictures;
  }

  private static List<Step> steps(JsonNode node) {
    List<Step> steps = new ArrayList<>();
    for (JsonNode s : node.path("steps")) {
      steps.add(new Step(
          s.path("name").asString(),
          Coded.of(StepState.class, s.path("state").asString()),
          instant(s, "started"),
          s.path("message").asString()));
    }
    return steps;
  }

  private static Instant instant(JsonNode node, String name) {
    return node.has(name) ? Instant.parse(node.path(name).asString()) : null;
  }
}
