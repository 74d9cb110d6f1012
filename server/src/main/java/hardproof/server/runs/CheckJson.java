package hardproof.server.runs;

import hardproof.core.wording.Coded;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.drills.DrillOptions;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Checks and options of a run as they are kept in the database. */
public final class CheckJson {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private CheckJson() {}

  public static String write(List<Check> checks) {
    ArrayNode array = JSON.createArrayNode();
    for (Check check : checks) {
      array
          .addObject()
          .put("type", check.type().code())
          .put("subject", check.subject())
          .put("expected", check.expected());
    }
    return array.toString();
  }

  public static List<Check> read(String json) {
    List<Check> checks = new ArrayList<>();
    for (JsonNode node : JSON.readTree(json)) {
      checks.add(new Check(
          Coded.of(CheckType.class, node.path("type").asString()),
          node.path("subject").asString(),
          node.path("expected").asString("")));
    }
    return checks;
  }

  public static String write(DrillOptions options) {
    ObjectNode node = JSON.createObjectNode();
    node.put("seed", options.seed());
    node.put("sample", options.sample());
    ArrayNode paths = node.putArray("paths");
    options.paths().forEach(paths::add);
    node.put("engine", options.engine());
    node.put("boot_limit_ms", options.bootLimit().toMillis());
    node.put("bytes_per_second", options.bytesPerSecond());
    return node.toString();
  }

  public static DrillOptions readOptions(String json) {
    JsonNode node = JSON.readTree(json);
    List<String> paths = new ArrayList<>();
    node.path("paths").forEach(p -> paths.add(p.asString()));
    DrillOptions usual = DrillOptions.usual();
    return new DrillOptions(
        node.path("seed").asString(""),
        node.path("sample").asInt(usual.sample()),
        paths,
        node.path("engine").isString() ? node.path("engine").asString() : null,
        Duration.ofMillis(node.path("boot_limit_ms").asLong(usual.bootLimit().toMillis())),
        node.path("bytes_per_second").isNumber() ? node.path("bytes_per_second").asLong() : null);
  }

  public static String writeLines(List<String> lines) {
    if (lines == null) {
      return null;
    }
    ArrayNode array = JSON.createArrayNode();
    lines.forEach(array::add);
    return array.toString();
  }

  public static List<String> readLines(String json) {
    if (json == null) {
      return null;
    }
    List<String> lines = new ArrayList<>();
    JSON.readTree(json).forEach(l -> lines.add(l.asString()));
    return lines;
  }
}
