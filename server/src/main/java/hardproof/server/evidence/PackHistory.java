package hardproof.server.evidence;

import hardproof.core.controls.Watched;
import hardproof.core.insights.Stretch;
import hardproof.core.programmes.Draw;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * What a pack tells besides the facts of its instant: of the period before it.
 *
 * @param watched when findings were open
 * @param draws of starts in the period that drilled something of the scope, in their order
 * @param before the pack that was issued last of the same scope, of an earlier instant; null where there is none
 */
record PackHistory(
    Watched watched, List<PackDraw> draws, @Nullable PackBefore before) {
  PackHistory {
    draws = List.copyOf(draws);
  }

  /** Nothing but the begin of the period. */
  static PackHistory from(Instant from) {
    return new PackHistory(new Watched(from, null, List.of()), List.of(), null);
  }

  /**
   * A pack that was issued before.
   *
   * @param sha256 of its zip, as it was recorded
   * @param standard its title
   * @param verdicts by workload, as they stand in it
   */
  record PackBefore(
      String title,
      Instant asAt,
      Instant knownAt,
      String sha256,
      String standard,
      Map<String, String> verdicts) {
    PackBefore {
      verdicts = new TreeMap<>(verdicts);
    }
  }

  /**
   * A draw with its candidates, so that anybody can draw it again.
   *
   * @param known digest of what was known before
   * @param sample so many of all were drawn; null where one of each resource was
   * @param candidates a line each
   * @param runs the runs that were drawn, with the point of each
   */
  record PackDraw(
      String programme,
      Instant due,
      String known,
      @Nullable Integer sample,
      String candidates,
      Map<String, Draw.Candidate> runs) {
    PackDraw {
      runs = new TreeMap<>(runs);
    }

    Draw again() {
      return Draw.of(Draw.seed(programme, due, known), Draw.read(candidates));
    }

    /** Whether drawing again draws the points of all its runs. */
    boolean repeats() {
      Draw again = again();
      return (sample == null ? again.oneOfEach() : again.first(sample)).containsAll(runs.values());
    }
  }

  Map<String, Object> tree() {
    Map<String, Object> tree = new LinkedHashMap<>();
    tree.put("from", watched.from().toString());
    if (watched.since() != null) {
      tree.put("watched_since", watched.since().toString());
    }
    tree.put("findings", watched.stretches().stream().map(PackHistory::tree).toList());
    tree.put("draws", draws.stream().map(PackHistory::tree).toList());
    if (before != null) {
      tree.put("before", tree(before));
    }
    return tree;
  }

  private static Map<String, Object> tree(Stretch stretch) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("finding", stretch.finding());
    row.put("opened", stretch.opened().toString());
    if (stretch.closed() != null) {
      row.put("closed", stretch.closed().toString());
    }
    return row;
  }

  private static Map<String, Object> tree(PackDraw draw) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("programme", draw.programme());
    row.put("due", draw.due().toString());
    row.put("known", draw.known());
    if (draw.sample() != null) {
      row.put("sample", draw.sample());
    }
    row.put("candidates", draw.candidates().lines().toList());
    List<Map<String, String>> runs = new ArrayList<>();
    draw.runs()
        .forEach((run, point) ->
            runs.add(Map.of("run", run, "resource", point.resource(), "point", point.point())));
    row.put("runs", runs.stream().map(TreeMap::new).toList());
    return row;
  }

  private static Map<String, Object> tree(PackBefore before) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("title", before.title());
    row.put("as_at", before.asAt().toString());
    row.put("known_at", before.knownAt().toString());
    row.put("sha256", before.sha256());
    row.put("standard", before.standard());
    row.put("verdicts", before.verdicts());
    return row;
  }

  /**
   * Reads what {@link #tree} is written as.
   *
   * @throws RuntimeException when it is not that
   */
  static PackHistory read(JsonNode node) {
    List<Stretch> stretches = new ArrayList<>();
    node.path("findings")
        .forEach(s -> stretches.add(new Stretch(
            text(s, "finding"), null, Instant.parse(text(s, "opened")), instant(s, "closed"))));
    List<PackDraw> draws = new ArrayList<>();
    node.path("draws").forEach(d -> draws.add(draw(d)));
    return new PackHistory(
        new Watched(Instant.parse(text(node, "from")), instant(node, "watched_since"), stretches),
        draws,
        node.has("before") ? before(node.path("before")) : null);
  }

  private static PackDraw draw(JsonNode d) {
    StringBuilder candidates = new StringBuilder();
    d.path("candidates").forEach(c -> candidates.append(c.asString()).append('\n'));
    Map<String, Draw.Candidate> runs = new TreeMap<>();
    d.path("runs")
        .forEach(r ->
            runs.put(text(r, "run"), new Draw.Candidate(text(r, "resource"), text(r, "point"))));
    return new PackDraw(
        text(d, "programme"),
        Instant.parse(text(d, "due")),
        text(d, "known"),
        d.has("sample") ? d.path("sample").asInt() : null,
        candidates.toString(),
        runs);
  }

  private static PackBefore before(JsonNode b) {
    Map<String, String> verdicts = new TreeMap<>();
    b.path("verdicts")
        .properties()
        .forEach(v -> verdicts.put(v.getKey(), v.getValue().asString()));
    return new PackBefore(
        text(b, "title"),
        Instant.parse(text(b, "as_at")),
        Instant.parse(text(b, "known_at")),
        text(b, "sha256"),
        text(b, "standard"),
        verdicts);
  }

  private static @Nullable Instant instant(JsonNode node, String name) {
    return node.has(name) ? Instant.parse(text(node, name)) : null;
  }

  private static String text(JsonNode node, String name) {
    return node.required(name).asString();
  }
}
