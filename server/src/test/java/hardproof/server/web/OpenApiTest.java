package hardproof.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer;
import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
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

  @Test
  void theDescriptionThatThePageIsBuiltFromIsCurrent() throws IOException {
    Path committed = Path.of(System.getProperty("web.dir"), "openapi.json");
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
