package hardproof.server.feeds;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.Map;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * What a delivery says of itself, in the file {@code feed.json} beside its facts.
 *
 * @param coversUntil the instant up to which it has looked, whatever the newest row speaks of
 */
record DeliveryNote(Instant coversUntil) {
  static final String FILE = "feed.json";
  static final String COVERS_UNTIL = "covers_until";

  private static final long MOST_BYTES = 10_000;
  private static final JsonMapper JSON =
      JsonMapper.builder().enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION).build();

  /** @throws UnreadableFile when it says something else, or nothing that can be understood */
  static DeliveryNote read(Path path, String name) throws IOException {
    if (Files.size(path) > MOST_BYTES) {
      throw new UnreadableFile(name, 0, null, "is longer than such a file can be");
    }
    JsonNode root = tree(path, name);
    refuseOthers(name, root);
    if (!root.path(COVERS_UNTIL).isString()) {
      throw new UnreadableFile(
          name, 0, null, "does not say " + COVERS_UNTIL + ", such as 2026-11-26T16:00:00Z");
    }
    return new DeliveryNote(instant(name, root.path(COVERS_UNTIL).asString()));
  }

  private static JsonNode tree(Path path, String name) throws IOException {
    JsonNode root;
    try {
      root = JSON.readTree(Files.readAllBytes(path));
    } catch (JacksonException e) {
      throw new UnreadableFile(name, 0, null, "is not JSON");
    }
    return root;
  }

  private static void refuseOthers(String name, JsonNode root) throws UnreadableFile {
    for (Map.Entry<String, JsonNode> field : root.properties()) {
      if (!field.getKey().equals(COVERS_UNTIL)) {
        throw new UnreadableFile(
            name, 0, field.getKey(), "is not known here; it may say " + COVERS_UNTIL + " only");
      }
    }
  }

  private static Instant instant(String name, String text) throws UnreadableFile {
    try {
      return Instant.parse(text);
    } catch (DateTimeException e) {
      throw new UnreadableFile(
          name, 0, COVERS_UNTIL, "is no instant in UTC; write it like 2026-11-26T16:00:00Z");
    }
  }
}
