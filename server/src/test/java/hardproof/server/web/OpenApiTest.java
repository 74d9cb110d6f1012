package hardproof.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.proof.Verdict;
import hardproof.server.RunningServer;
import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * The page's types are made from web/openapi.json. This fails when that file is not what the server
 * says of itself; {@code mvn test -pl server -am -Dopenapi.write} writes it anew.
 */
class OpenApiTest {
  private static final JsonMapper JSON = JsonMapper.builder()
      .enable(SerializationFeature.INDENT_OUTPUT)
      .enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS)
      .build();

  @TempDir
  Path folder;

  /** As the tests of a page can only be as exact as this is. */
  @Test
  void everyOperationSaysWhatItDoesAndWhatElseItAnswers() throws IOException {
    JsonNode api = JSON.readTree(Files.readString(committed()));
    Set<String> names = new HashSet<>();
    List<String> lacking = new ArrayList<>();
    for (var path : api.path("paths").properties()) {
      for (var operation : path.getValue().properties()) {
        JsonNode of = operation.getValue();
        String name = operation.getKey() + " " + path.getKey();
        if (!names.add(of.path("operationId").asString())) {
          lacking.add(name + ": a name of its own");
        }
        if (of.path("summary").asString().isBlank()) {
          lacking.add(name + ": a summary");
        }
        JsonNode answer = of.path("responses").path("200");
        if (!answer.isMissingNode() && answer.path("content").isEmpty()) {
          lacking.add(name + ": what it answers");
        }
        if (of.path("responses").path("401").isMissingNode()) {
          lacking.add(name + ": its problems");
        }
      }
    }
    assertThat(names).isNotEmpty();
    assertThat(lacking).isEmpty();
  }

  /** A code is one of the codes there are, wherever it stands. */
  @Test
  void noCodeIsAnyText() throws IOException {
    JsonNode schemas =
        JSON.readTree(Files.readString(committed())).path("components").path("schemas");
    assertThat(schemas.path("Verdict").path("enum").valueStream().map(JsonNode::asString))
        .containsExactly(Arrays.stream(Verdict.values()).map(Verdict::code).toArray(String[]::new));
    List<String> free = new ArrayList<>();
    for (var schema : schemas.properties()) {
      for (var property : schema.getValue().path("properties").properties()) {
        if (property.getKey().matches("verdict|method|restore|cleanup|role|medium|state|form")
            && property.getValue().path("$ref").isMissingNode()) {
          free.add(schema.getKey() + "." + property.getKey());
        }
      }
    }
    assertThat(free).isEmpty();
  }

  private static Path committed() {
    return Path.of(System.getProperty("web.dir"), "openapi.json");
  }

  @Test
  void theDescriptionThatThePageIsBuiltFromIsCurrent() throws IOException {
    Path committed = committed();
    try (RunningServer server = new RunningServer(folder).with(Role.AUDITOR)) {
      String current = server.as(Role.AUDITOR).get("/v3/api-docs").body();
      String sorted =
          JSON.writeValueAsString(JSON.readValue(current, java.util.TreeMap.class)) + "\n";
      if (System.getProperty("openapi.write") != null) {
        Files.writeString(committed, sorted);
      }
      assertThat(Files.readString(committed).replace("\r\n", "\n")).isEqualTo(sorted);
    }
  }
}
