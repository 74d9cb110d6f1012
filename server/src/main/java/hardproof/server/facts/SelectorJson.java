package hardproof.server.facts;

import hardproof.core.estate.Selector;
import hardproof.core.estate.Selector.Condition;
import hardproof.core.wording.WrongValue;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Selectors as JSON: {@code {"all": [{"field": "kind", "in": ["database"]}], "none": […]}}. */
public final class SelectorJson {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final int MOST_VALUES = 1_000;
  private static final String FORM =
      "is not a selector such as {\"all\": [{\"field\": \"environment\", \"in\": [\"production\"]}]}";

  private SelectorJson() {}

  /**
   * @throws WrongValue with what is wrong
   */
  public static Selector read(String text) {
    JsonNode node = tree(text);
    if (!node.isObject()) {
      throw new WrongValue(FORM);
    }
    refuseOtherParts(node);
    Selector read = new Selector(
        conditions(node, "all"), conditions(node, "any"), conditions(node, "none"), also(node));
    refuseTooMuch(read);
    return read;
  }

  private static JsonNode tree(String text) {
    JsonNode node;
    try {
      node = JSON.readTree(text);
    } catch (JacksonException e) {
      throw new WrongValue(FORM, e);
    }
    return node;
  }

  private static void refuseOtherParts(JsonNode node) {
    node.propertyNames().stream()
        .filter(n -> !List.of("all", "any", "none", "also").contains(n))
        .findFirst()
        .ifPresent(n -> {
          throw new WrongValue("has a part '" + n + "'; it may have all, any, none and also");
        });
  }

  private static void refuseTooMuch(Selector read) {
    int values = read.also().size() / 100;
    for (List<Condition> part : List.of(read.all(), read.any(), read.none())) {
      values += part.stream().mapToInt(c -> 1 + c.in().size()).sum();
    }
    if (values > MOST_VALUES) {
      throw new WrongValue("has more than " + MOST_VALUES
          + " conditions and values, or a hundred times as many keys");
    }
  }

  /**
   * A selector that somebody asks by; everything when there is none.
   *
   * @throws WrongValue with what is wrong with it
   */
  public static Selector asked(String text) {
    try {
      return text == null || text.isBlank() ? Selector.EVERYTHING : read(text);
    } catch (WrongValue e) {
      throw new WrongValue("the selector " + e.getMessage(), e);
    }
  }

  private static List<String> also(JsonNode node) {
    List<String> keys = new ArrayList<>();
    for (JsonNode key : node.path("also")) {
      if (!key.isString()) {
        throw new WrongValue("has a part 'also' that is not a list of keys");
      }
      keys.add(key.asString());
    }
    return keys;
  }

  private static List<Condition> conditions(JsonNode node, String part) {
    List<Condition> conditions = new ArrayList<>();
    for (JsonNode item : node.path(part)) {
      JsonNode field = item.path("field");
      if (!field.isString() || !item.path("in").isArray()) {
        throw new WrongValue(FORM);
      }
      List<String> values = new ArrayList<>();
      item.path("in").forEach(v -> values.add(v.asString()));
      conditions.add(new Condition(field.asString(), values));
    }
    return conditions;
  }

  public static String write(Selector selector) {
    Map<String, List<?>> parts = new LinkedHashMap<>();
    parts.put("all", selector.all());
    parts.put("any", selector.any());
    parts.put("none", selector.none());
    parts.put("also", selector.also());
    parts.values().removeIf(List::isEmpty);
    return JSON.writeValueAsString(parts);
  }
}
