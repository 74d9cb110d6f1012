package hardproof.server.survival;

import hardproof.core.losses.Loss;
import java.time.Instant;
import java.util.LinkedHashSet;
import java.util.Set;
import java.util.TreeSet;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** A loss as it is kept in the database. */
public final class LossJson {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private LossJson() {}

  public static String write(Loss loss) {
    ObjectNode node = JSON.createObjectNode();
    put(node, "sites", loss.sites());
    put(node, "regions", loss.regions());
    put(node, "stores", loss.stores());
    put(node, "domains", loss.domains());
    put(node, "holders", loss.holders());
    put(node, "feeds", loss.feeds());
    node.put("intruder", loss.intruder());
    if (loss.taintedAfter() != null) {
      node.put("tainted_after", loss.taintedAfter().toString());
    }
    return node.toString();
  }

  private static void put(ObjectNode node, String name, Set<String> all) {
    ArrayNode array = node.putArray(name);
    new TreeSet<>(all).forEach(array::add);
  }

  public static Loss read(String json) {
    JsonNode node = JSON.readTree(json);
    JsonNode tainted = node.path("tainted_after");
    return new Loss(
        all(node, "sites"),
        all(node, "regions"),
        all(node, "stores"),
        all(node, "domains"),
        all(node, "holders"),
        all(node, "feeds"),
        node.path("intruder").asBoolean(false),
        tainted.isString() ? Instant.parse(tainted.asString()) : null);
  }

  private static Set<String> all(JsonNode node, String name) {
    Set<String> all = new LinkedHashSet<>();
    node.path(name).forEach(n -> all.add(n.asString()));
    return all;
  }
}
