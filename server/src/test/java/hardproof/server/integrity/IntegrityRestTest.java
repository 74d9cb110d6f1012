package hardproof.server.integrity;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer;
import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** Sweeps and what they found, as a client sees them. */
class IntegrityRestTest {
  @TempDir
  Path folder;

  private RunningServer server;
  private RunningServer.Client client;

  @BeforeEach
  void start() throws IOException {
    server = new RunningServer(folder).with(Role.OPERATOR, Role.AUDITOR);
    client = server.as(Role.OPERATOR);
  }

  @AfterEach
  void stop() {
    server.close();
  }

  private JsonNode begin(String body) {
    RunningServer.Answer answer = client.post("/api/sweeps", body);
    assertThat(answer.status()).as(answer.body()).isEqualTo(201);
    return answer.json();
  }

  private JsonNode begin() {
    return begin("{\"store\": \"near\", \"reason\": \"monthly\", \"bytesPerSecond\": 5000000}");
  }

  private void readAll() {
    while (server.estate.installation.part(Sweeps.class).readNext()) {
      server.estate.clock.forward(Duration.ofSeconds(1));
    }
  }

  @Test
  void aSweepIsBegunFollowedAndEnds() {
    JsonNode begun = begin();
    assertThat(begun.path("state").asString()).isEqualTo("running");
    assertThat(begun.path("storeName").asString()).isEqualTo("NEAR");
    assertThat(begun.path("requestedBy").asString()).isEqualTo("operator");
    assertThat(begun.path("items").asInt()).isEqualTo(3);
    assertThat(begun.path("leftMs").asLong())
        .isEqualTo(begun.path("bytes").asLong() * 1000 / 5_000_000);
    readAll();
    JsonNode ended = client.get("/api/sweeps").json().path(0);
    assertThat(ended.path("state").asString()).isEqualTo("done");
    assertThat(ended.path("done").asInt()).isEqualTo(3);
    assertThat(ended.path("doneBytes").asLong()).isEqualTo(begun.path("bytes").asLong());
    assertThat(ended.path("failed").asInt()).isZero();
    assertThat(ended.has("leftMs") && !ended.path("leftMs").isNull()).isFalse();
  }

  @Test
  void aSweepIsPausedSlowedGoesOnAndIsCancelled() {
    String path = "/api/sweeps/" + begin().path("id").asLong();
    assertThat(
            client.patch(path, "{\"state\": \"paused\"}").json().path("state").asString())
        .isEqualTo("paused");
    assertThat(client.patch(path, "{\"state\": \"paused\"}").detail())
        .isEqualTo("This sweep has ended, or is so already; there is nothing to pause.");
    assertThat(client
            .patch(path, "{\"bytesPerSecond\": 1000}")
            .json()
            .path("bytesPerSecond")
            .asLong())
        .isEqualTo(1000);
    JsonNode free = client.patch(path, "{\"unlimited\": true}").json();
    assertThat(free.path("bytesPerSecond").isNumber()).isFalse();
    assertThat(
            client.patch(path, "{\"state\": \"running\"}").json().path("state").asString())
        .isEqualTo("running");
    assertThat(client.delete(path).status()).isEqualTo(204);
    assertThat(client.get("/api/sweeps").json().path(0).path("sentence").asString())
        .isEqualTo("cancelled by operator");
    assertThat(client.patch(path, "{\"state\": \"running\"}").status()).isEqualTo(422);
  }

  @Test
  void whatMakesNoSenseIsRefusedWithWhatToDo() {
    assertThat(client
            .post("/api/sweeps", "{\"store\": \"near\", \"reason\": \" \"}")
            .detail())
        .isEqualTo("Say why the store is read: the reason stands in the evidence.");
    RunningServer.Answer slow = client.post(
        "/api/sweeps", "{\"store\": \"near\", \"reason\": \"x\", \"bytesPerSecond\": 999}");
    assertThat(slow.status()).isEqualTo(400);
    assertThat(slow.detail()).containsIgnoringCase("a sweep reads at least 1,000 bytes a second");
    assertThat(client
            .post("/api/sweeps", "{\"store\": \"nowhere\", \"reason\": \"x\"}")
            .detail())
        .isEqualTo("There is no store 'nowhere'.");
    assertThat(client.post("/api/sweeps", "{\"reason\": \"x\"}").status()).isEqualTo(400);
    String path = "/api/sweeps/" + begin().path("id").asLong();
    assertThat(client
            .post("/api/sweeps", "{\"store\": \"near\", \"reason\": \"x\"}")
            .detail())
        .startsWith("A sweep of NEAR is under way already.");
    assertThat(client.patch(path, "{\"state\": \"asleep\"}").detail())
        .containsIgnoringCase("'asleep' is not one of running, paused");
    assertThat(client.patch("/api/sweeps/77", "{\"state\": \"paused\"}").detail())
        .isEqualTo("No sweep 77 is known.");
    assertThat(client.delete("/api/sweeps/77").status()).isEqualTo(404);
  }

  @Test
  void anAuditorLooksButDoesNotSweep() {
    RunningServer.Client auditor = server.as(Role.AUDITOR);
    String path = "/api/sweeps/" + begin().path("id").asLong();
    assertThat(auditor.get("/api/sweeps").status()).isEqualTo(200);
    assertThat(auditor.get("/api/integrity").status()).isEqualTo(200);
    assertThat(auditor
            .post("/api/sweeps", "{\"store\": \"near\", \"reason\": \"x\"}")
            .status())
        .isEqualTo(403);
    assertThat(auditor.patch(path, "{\"state\": \"paused\"}").status()).isEqualTo(403);
    assertThat(auditor.delete(path).status()).isEqualTo(403);
    assertThat(server.client().get("/api/integrity").status()).isEqualTo(401);
  }

  /** Damage is shown with what hangs from it, now and as it was known at a past instant. */
  @Test
  void damageIsShownAsAtAnyInstant() throws IOException {
    Instant before = server.estate.clock.instant();
    Path file = server.estate.store().resolve("share-1.tar.gz");
    byte[] bytes = Files.readAllBytes(file);
    bytes[bytes.length / 2] ^= 1;
    Files.write(file, bytes);
    server.estate.clock.forward(Duration.ofSeconds(1));
    begin();
    readAll();
    JsonNode damage = client.get("/api/integrity").json().path("damaged").path(0);
    assertThat(damage.path("point").asString()).isEqualTo("share-1");
    assertThat(damage.path("hangingPoints").toString()).isEqualTo("[\"share-1\",\"share-2\"]");
    assertThat(client.get("/api/integrity").json())
        .as("the same facts, the same answer")
        .isEqualTo(client.get("/api/integrity").json());
    assertThat(
            client.get("/api/integrity?asAt=" + before).json().path("damaged").size())
        .isZero();
  }
}
