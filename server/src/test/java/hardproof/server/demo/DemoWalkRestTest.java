package hardproof.server.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.server.WithServer;
import hardproof.server.activity.Activity;
import hardproof.server.people.Role;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.nio.file.Files;
import java.security.Principal;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Who may begin a demo, and where. */
class DemoWalkRestTest extends WithServer {
  private static final Principal ANA = () -> "ana";

  private DemoWalkController at(String address) {
    return new DemoWalkController(
        new DemoWalk(folder -> {
          throw new IOException("none is begun in this test");
        }),
        server.estate.installation.part(Activity.class),
        server.estate.installation,
        address);
  }

  @Test
  void administratorsBeginAndEndOne() {
    var seen = client.get("/api/demo-walk");
    assertThat(seen.status()).isEqualTo(200);
    assertThat(seen.json().path("state").asString()).isEqualTo("none");
    assertThat(seen.json().path("possible").asBoolean()).isTrue();
    assertThat(client.post("/api/demo-walk", "{}").status()).isEqualTo(403);
    assertThat(client.delete("/api/demo-walk").status()).isEqualTo(403);
    assertThat(server.as(Role.ADMINISTRATOR).delete("/api/demo-walk").status()).isEqualTo(200);
  }

  /** Its people have a password that everybody knows. */
  @ParameterizedTest
  @CsvSource({"0.0.0.0, false", "::, false", "192.0.2.7, false", "127.0.0.1, true", "::1, true"})
  void oneIsBegunOnlyWhereNobodyElseReachesIt(String address, boolean possible) {
    DemoWalkController controller = at(address);
    assertThat(controller.now().possible()).isEqualTo(possible);
    if (possible) {
      assertThat(controller.begin(ANA).state()).isEqualTo(DemoWalk.State.FAILED);
    } else {
      assertThatThrownBy(() -> controller.begin(ANA))
          .isInstanceOf(Refused.class)
          .hasMessageContaining("can be reached from elsewhere");
    }
  }

  @Test
  void aDemoBeginsNoOther() throws IOException {
    Files.createDirectories(server.estate.installation.folder().demo());
    try {
      assertThatThrownBy(() -> at("127.0.0.1").begin(ANA)).hasMessageContaining("this is the demo");
    } finally {
      Files.delete(server.estate.installation.folder().demo());
    }
  }
}
