package hardproof.server.feeds;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.databind.json.JsonMapper;

/** Finds where in JSON the rows of a report are. */
final class JsonArrays {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private JsonArrays() {}

  /**
   * The path to the array of objects with the most of them; empty where that is the top, or there is none. What is no
   * JSON is said when its rows are read.
   */
  static String longest(Path path, String name) throws IOException {
    String best = "";
    long most = 0;
    Deque<String> at = new ArrayDeque<>();
    try (InputStream bytes = new BufferedInputStream(Files.newInputStream(path), 1 << 16);
        JsonParser parser = JSON.createParser(Rows.text(name, bytes))) {
      JsonToken token = parser.nextToken();
      if (token != JsonToken.START_OBJECT) {
        return "";
      }
      while ((token = parser.nextToken()) != null) {
        switch (token) {
          case PROPERTY_NAME -> at.addLast(parser.currentName());
          case START_ARRAY -> {
            long objects = objects(parser);
            if (objects > most) {
              most = objects;
              best = String.join(".", at);
            }
            at.pollLast();
          }
          case START_OBJECT -> {}
          default -> at.pollLast(); // A value, or the end of an object, which was one.
        }
      }
    } catch (JacksonException e) {
      // What is one object a line ends here, after its first.
      return best;
    }
    return best;
  }

  private static long objects(JsonParser parser) throws IOException {
    long objects = 0;
    JsonToken token;
    while ((token = parser.nextToken()) != null && token != JsonToken.END_ARRAY) {
      if (token == JsonToken.START_OBJECT) {
        objects++;
      }
      parser.skipChildren();
    }
    return objects;
  }
}
