package hardproof.server.criteria;

import hardproof.core.criteria.OwnCriterion;
import hardproof.core.criteria.Parameter;
import hardproof.core.criteria.Standard;
import hardproof.core.criteria.TierDemand;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A standard as JSON, with every value in the spelling that people write. */
public final class StandardJson {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private StandardJson() {}

  /** As a tree of maps and lists, in a fixed order. */
  public static Map<String, Object> tree(Standard standard) {
    Map<String, Object> root = new LinkedHashMap<>();
    root.put("name", standard.name());
    root.put("version", standard.version());
    root.put("period", standard.period().toString());
    root.put("zone", standard.zone().getId());
    List<Map<String, String>> tiers = tiers(standard);
    root.put("tiers", tiers);
    root.put("regions", standard.regions());
    root.put(
        "own",
        standard.own().stream()
            .map(o -> {
              Map<String, String> row = new LinkedHashMap<>();
              row.put("code", o.code());
              row.put("title", o.title());
              row.put("demand", o.demand());
              row.put("expression", o.expression());
              return row;
            })
            .toList());
    return root;
  }

  private static List<Map<String, String>> tiers(Standard standard) {
    List<Map<String, String>> tiers = new ArrayList<>();
    for (TierDemand demand : standard.tiers()) {
      Map<String, String> tier = new LinkedHashMap<>();
      demand.values().forEach((p, v) -> tier.put(p.code(), p.write(v)));
      tiers.add(tier);
    }
    return tiers;
  }

  public static String write(Standard standard) {
    return JSON.writeValueAsString(tree(standard));
  }

  /**
   * @throws WrongValue with what is wrong
   */
  public static Standard read(String text) {
    try {
      return read(JSON.readTree(text));
    } catch (JacksonException e) {
      throw new WrongValue("is not a standard in JSON", e);
    }
  }

  /**
   * @throws WrongValue with what is wrong
   */
  public static Standard read(JsonNode root) {
    List<TierDemand> tiers = readTiers(root);
    Map<String, List<String>> regions = readRegions(root);
    List<OwnCriterion> own = readOwn(root);
    try {
      return standard(root, tiers, regions, own);
    } catch (DateTimeException e) {
      throw new WrongValue("has a period or zone that can't be read", e);
    }
  }

  private static List<TierDemand> readTiers(JsonNode root) {
    List<TierDemand> tiers = new ArrayList<>();
    for (JsonNode tier : root.path("tiers")) {
      Map<Parameter, Long> values = new EnumMap<>(Parameter.class);
      tier.properties().forEach(e -> {
        Parameter parameter = Coded.of(Parameter.class, e.getKey());
        values.put(parameter, parameter.read(e.getValue().asString()));
      });
      tiers.add(new TierDemand(values));
    }
    return tiers;
  }

  private static Map<String, List<String>> readRegions(JsonNode root) {
    Map<String, List<String>> regions = new LinkedHashMap<>();
    root.path("regions").properties().forEach(e -> {
      List<String> allowed = new ArrayList<>();
      e.getValue().forEach(r -> allowed.add(r.asString()));
      regions.put(e.getKey(), allowed);
    });
    return regions;
  }

  private static List<OwnCriterion> readOwn(JsonNode root) {
    List<OwnCriterion> own = new ArrayList<>();
    for (JsonNode o : root.path("own")) {
      own.add(CelCriterion.of(
          o.path("code").asString(),
          o.path("title").asString(),
          o.path("demand").asString(),
          o.path("expression").asString()));
    }
    return own;
  }

  private static Standard standard(
      JsonNode root,
      List<TierDemand> tiers,
      Map<String, List<String>> regions,
      List<OwnCriterion> own) {
    return new Standard(
        root.path("name").asString(),
        root.path("version").asInt(),
        Duration.parse(root.path("period").asString()),
        ZoneId.of(root.path("zone").asString()),
        tiers,
        regions,
        own);
  }
}
