package hardproof.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Answer;
import hardproof.server.RunningServer.Client;
import hardproof.server.people.Role;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/**
 * Whatever is put into an address or a body, of every operation that the description has, is answered as a
 * wrong value or as done, and never as a mistake of ours.
 */
class AwkwardRequestsTest {
  private static final JsonNodeFactory NODES = JsonNodeFactory.instance;

  /** Ends the session, never ends, or begins another server; what they do is tested elsewhere. */
  private static final Set<String> LEFT_OUT =
      Set.of("/api/events", "/api/session", "/api/demo-walk");

  private static final List<String> TEXTS = List.of(
      "",
      " ",
      "\0",
      "..",
      "../../etc/passwd",
      "%zz",
      "a".repeat(5000),
      "\u202e\u0301",
      "ü/☂ '\"",
      "-1",
      "99999999999999999999",
      "1e999",
      "NaN",
      "{}",
      "null",
      "[(",
      "2026-02-30T00:00:00Z",
      "+1000000000-01-01T00:00:00Z",
      "-999999999-01-01T00:00:00Z",
      "P999999999999D",
      "FREQ=SECONDLY;COUNT=-1",
      "http://[");

  @TempDir
  static Path folder;

  private static RunningServer server;
  private static Client client;
  private static JsonNode description;

  @BeforeAll
  static void start() throws IOException {
    server = new RunningServer(folder).with(Role.ADMINISTRATOR);
    client = server.as(Role.ADMINISTRATOR);
    description = JsonMapper.builder()
        .build()
        .readTree(Files.readString(Path.of(System.getProperty("web.dir"), "openapi.json")));
  }

  @AfterAll
  static void stop() {
    server.close();
  }

  @TestFactory
  Stream<DynamicTest> nothingIsAMistakeOfOurs() {
    List<DynamicTest> tests = new ArrayList<>();
    for (Map.Entry<String, JsonNode> path : description.path("paths").properties()) {
      for (Map.Entry<String, JsonNode> operation : path.getValue().properties()) {
        String name = operation.getKey() + " " + path.getKey();
        if (!LEFT_OUT.contains(path.getKey())) {
          tests.add(DynamicTest.dynamicTest(
              name, () -> ask(operation.getKey(), path.getKey(), operation.getValue())));
        }
      }
    }
    assertThat(tests).hasSizeGreaterThan(80);
    return tests.stream();
  }

  private static void ask(String method, String path, JsonNode operation) {
    JsonNode schema =
        operation.path("requestBody").path("content").path("application/json").path("schema");
    boolean takesNothing =
        schema.isMissingNode() && operation.path("parameters").isEmpty();
    for (String text : takesNothing ? TEXTS.subList(0, 1) : TEXTS) {
      List<String> query = new ArrayList<>();
      String address = path;
      for (JsonNode parameter : operation.path("parameters")) {
        String name = parameter.path("name").asString();
        if (parameter.path("in").asString().equals("query")) {
          query.add(name + "=" + encoded(text));
        } else {
          address = address.replace("{" + name + "}", text.isBlank() ? "x" : encoded(text));
        }
      }
      List<String> addresses = new ArrayList<>(List.of(address));
      query.forEach(q -> addresses.add(addresses.get(0) + "?" + q));
      addresses.add(addresses.get(0) + "?" + String.join("&", query));
      for (String whole : addresses) {
        String body = schema.isMissingNode() ? "{}" : body(schema, text, 0).toString();
        Answer answer = send(method, whole, body);
        assertThat(answer.status())
            .as("%s %s with %s: %s", method, whole, body, answer.body())
            .isLessThan(500);
      }
    }
    for (String body :
        takesNothing ? List.of("[") : List.of("", "[]", "null", "{", "{\"a\":1}", "\"\\u0000\"")) {
      assertThat(send(method, path.replaceAll("[{}]", ""), body).status())
          .as("%s with the body %s", path, body)
          .isLessThan(500);
    }
  }

  private static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
  }

  private static Answer send(String method, String path, String body) {
    return switch (method) {
      case "get" -> client.get(path);
      case "post" -> client.post(path, body);
      case "put" -> client.put(path, body, "\"1\"");
      case "patch" -> client.patch(path, body);
      case "delete" -> client.delete(path);
      default -> throw new AssertionError(method);
    };
  }

  /** A body of the right shape with that text wherever a text may stand, and odd numbers and lists. */
  private static JsonNode body(JsonNode schema, String text, int depth) {
    JsonNode named =
        schema.has("$ref") ? description.at(schema.path("$ref").asString().substring(1)) : schema;
    String type = named.path("type").isArray()
        ? named.path("type").path(0).asString()
        : named.path("type").asString("object");
    return switch (type) {
      case "string" -> NODES.stringNode(text);
      case "integer", "number" ->
        text.isBlank() ? NODES.nullNode() : NODES.numberNode(text.hashCode());
      case "boolean" -> NODES.booleanNode(text.length() % 2 == 0);
      case "array" ->
        text.isEmpty() || depth > 4
            ? NODES.arrayNode()
            : NODES.arrayNode().add(body(named.path("items"), text, depth + 1));
      default -> {
        ObjectNode object = NODES.objectNode();
        if (depth <= 4) {
          named
              .path("properties")
              .properties()
              .forEach(p -> object.set(p.getKey(), body(p.getValue(), text, depth + 1)));
        }
        yield object;
      }
    };
  }
}
