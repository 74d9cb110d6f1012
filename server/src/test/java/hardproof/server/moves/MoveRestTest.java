package hardproof.server.moves;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer.Client;
import hardproof.server.WithServer;
import hardproof.server.people.Role;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import tools.jackson.databind.JsonNode;

/** A file share that an export puts at another site, and at home again. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class MoveRestTest extends WithServer {
  private void share(String site) throws IOException {
    server.estate.clock.forward(Duration.ofMinutes(5));
    server.estate.take("resources.csv", """
        key,name,kind,workload,site,environment,first_seen
        share,SHARE,file-share,w,%s,production,2026-10-01T00:00:00Z
        """.formatted(site));
  }

  private JsonNode moves(String query) {
    var answer = client.get("/api/moves" + query);
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  private static String steps(JsonNode member) {
    StringBuilder steps = new StringBuilder();
    member.path("steps").forEach(s -> steps.append(s.path("state").asString()).append(' '));
    return steps.toString();
  }

  @Test
  @Order(1)
  void nothingMovedSoFar() {
    assertThat(moves("")).isEmpty();
  }

  @Test
  @Order(2)
  void whatAnExportPutsElsewhereIsAway() throws IOException {
    Instant before = server.estate.clock.instant();
    share("B");
    JsonNode moved = moves("");
    assertThat(moved).hasSize(1);
    assertThat(moved.get(0).path("workload").asString()).isEqualTo("w");
    assertThat(moved.get(0).path("sentence").asString())
        .isEqualTo("1 away; SHARE can't go back yet without losing what is new");
    JsonNode member = moved.get(0).path("members").get(0);
    assertThat(member.path("home").asString()).isEqualTo("A");
    assertThat(member.path("away").asString()).isEqualTo("B");
    assertThat(steps(member)).isEqualTo("open waits waits waits waits ");
    assertThat(moves("?asAt=" + before)).as("looking back").isEmpty();
  }

  @Test
  @Order(3)
  void whatIsHomeAgainIsFollowedUntilItIsAsItWas() throws IOException {
    share("A");
    JsonNode member = moves("").get(0).path("members").get(0);
    assertThat(steps(member)).isEqualTo("missed missed done open open ");
    assertThat(member.has("back")).isTrue();
  }

  @Test
  @Order(4)
  void onlyWhoWorksHereSettlesAndSaysWhy() {
    String body = "{\"resource\":\"share\",\"reason\":\"It was named wrong\"}";
    assertThat(client.post("/api/moves/settled", body).status()).isEqualTo(403);
    Client administrator = server.as(Role.ADMINISTRATOR);
    assertThat(administrator
            .post("/api/moves/settled", "{\"resource\":\"share\",\"reason\":\" \"}")
            .status())
        .isEqualTo(400);
    var nobody = administrator.post(
        "/api/moves/settled", "{\"resource\":\"none\",\"reason\":\"It was named wrong\"}");
    assertThat(nobody.status()).isEqualTo(404);
    assertThat(nobody.detail()).isEqualTo("No resource 'none' is known.");
    var still = administrator.post("/api/moves/settled", body.replace("share", "db"));
    assertThat(still.status()).isEqualTo(422);
    assertThat(still.detail()).contains("there is nothing to settle");
    server.estate.clock.forward(Duration.ofMinutes(5));
    Instant open = server.estate.clock.instant().minusSeconds(1);
    assertThat(administrator.post("/api/moves/settled", body).status()).isEqualTo(204);
    assertThat(moves("")).isEmpty();
    assertThat(moves("?asAt=" + open)).as("looking back").hasSize(1);
    assertThat(administrator.post("/api/moves/settled", body).status()).isEqualTo(422);
  }
}
