package hardproof.server.feeds;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Field;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Rejection;
import java.io.IOException;
import java.io.Reader;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** An array of objects, or one object a line, with the field names of the CSV columns. */
final class JsonRows implements Rows {
  private static final JsonMapper JSON =
      JsonMapper.builder().enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION).build();

  private final String file;
  private final BundleFile type;
  private final JsonParser parser;
  private final List<String> path;
  private boolean array;
  private boolean started;
  private long item;

  /**
   * @param type whose fields it may have; null lets it have any, in lower case; those of an object in it are called
   *     {@code outer.inner} then
   * @param path to the array, with dots; empty for the top
   */
  JsonRows(Reader text, String file, BundleFile type, String path) {
    this.path = path.isEmpty() ? List.of() : List.of(path.split("\\."));
    this.file = file;
    this.type = type;
    this.parser = JSON.createParser(text);
  }

  @Override
  public Next next() throws IOException {
    try {
      JsonToken token = parser.nextToken();
      if (!started) {
        started = true;
        token = descend(token);
        array = token == JsonToken.START_ARRAY;
        token = array ? parser.nextToken() : token;
      }
      if (token == null || (array && token == JsonToken.END_ARRAY)) {
        return null;
      }
      item++;
      if (token != JsonToken.START_OBJECT) {
        throw new UnreadableFile(
            file, item, null, "is not an array of objects, nor one object a line");
      }
      return row(parser.readValueAsTree());
    } catch (JacksonException e) {
      throw new UnreadableFile(
          file,
          item + 1,
          null,
          "can't be read as JSON from this item on: " + e.getOriginalMessage());
    }
  }

  /** To where the array begins. */
  private JsonToken descend(JsonToken token) throws IOException {
    JsonToken at = token;
    for (String name : path) {
      boolean found = false;
      while (at == JsonToken.START_OBJECT && !found) {
        JsonToken field = parser.nextToken();
        if (field != JsonToken.PROPERTY_NAME) {
          break;
        }
        found = parser.currentName().equals(name);
        JsonToken value = parser.nextToken();
        if (found) {
          at = value;
        } else {
          parser.skipChildren();
        }
      }
      if (!found) {
        throw new UnreadableFile(
            file, 0, name, "is where the recipe looks for rows, and this file has nothing there");
      }
    }
    if (!path.isEmpty() && at != JsonToken.START_ARRAY) {
      throw new UnreadableFile(
          file, 0, String.join(".", path), "is where the recipe looks for rows, and is no list");
    }
    return at;
  }

  private Next row(JsonNode object) {
    Map<String, String> values = new LinkedHashMap<>();
    for (Map.Entry<String, JsonNode> field : object.properties()) {
      if (type != null && !type.hasColumn(field.getKey())) {
        return unknownField(field);
      }
      boolean apart = type == null && field.getValue().isObject();
      String value = apart ? null : text(field.getKey(), field.getValue());
      if (value != null && !value.isBlank()) {
        String name =
            type == null ? field.getKey().toLowerCase(java.util.Locale.ROOT) : field.getKey();
        values.put(name, value.strip());
      }
    }
    if (type == null) {
      flatten("", object, values, 0);
    }
    return new Next(new RawRow(item, values), null);
  }

  private static final int DEEPEST = 5;

  private static void flatten(
      String before, JsonNode object, Map<String, String> values, int depth) {
    for (Map.Entry<String, JsonNode> field : object.properties()) {
      if (field.getValue().isObject() && depth < DEEPEST) {
        flatten(before + field.getKey() + ".", field.getValue(), values, depth + 1);
      } else if (!before.isEmpty()) {
        String value = text(field.getKey(), field.getValue());
        if (value != null && !value.isBlank()) {
          values.putIfAbsent(
              (before + field.getKey()).toLowerCase(java.util.Locale.ROOT), value.strip());
        }
      }
    }
  }

  private Next unknownField(Map.Entry<String, JsonNode> field) {
    return new Next(
        null,
        new Rejection(
            file,
            item,
            field.getKey(),
            null,
            "is no field of " + type.code() + "; its fields are "
                + String.join(", ", type.columns().stream().map(Field::name).toList())));
  }

  /** Lists and tags may be written as JSON; a selector stays JSON. */
  private static String text(String field, JsonNode value) {
    if (value.isNull()) {
      return null;
    }
    if (field.equals("scope") && value.isObject()) {
      return value.toString();
    }
    List<String> parts = new ArrayList<>();
    if (value.isArray()) {
      value.forEach(v -> parts.add(v.asString()));
      return String.join(";", parts);
    }
    if (value.isObject()) {
      value.properties().forEach(e -> parts.add(e.getKey() + "=" + e.getValue().asString()));
      return String.join(";", parts);
    }
    return value.asString();
  }

  @Override
  public void close() throws IOException {
    parser.close();
  }
}
