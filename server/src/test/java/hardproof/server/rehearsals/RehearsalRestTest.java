package hardproof.server.rehearsals;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.server.RunningServer;
import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Rehearsals as they are asked for over HTTP: the workload w of the share SHARE and the database DB. */
class RehearsalRestTest {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  @TempDir
  Path folder;

  private RunningServer server;
  private RunningServer.Client operator;

  @BeforeEach
  void start() throws IOException {
    server = new RunningServer(folder).with(Role.OPERATOR, Role.AUDITOR);
    operator = server.as(Role.OPERATOR);
    server
        .estate
        .installation
        .checks()
        .keep(
            "db", List.of(new Check(CheckType.QUERY_AT_LEAST, "SELECT count(*) FROM entry", "1")));
  }

  @AfterEach
  void stop() {
    server.close();
  }

  @Test
  void planStartWatchAndRead() {
    JsonNode plan = JSON.readTree(
        operator.post("/api/rehearsal-plans", "{\"workload\":\"w\"}").body());
    assertThat(plan.path("refusal").isMissingNode()).isTrue();
    assertThat(plan.path("members")).hasSize(2);
    assertThat(plan.path("atOnce").asInt()).isEqualTo(2);
    assertThat(plan.path("spreadMs").asLong()).isEqualTo(3_600_000);
    RunningServer.Answer started = operator.post(
        "/api/rehearsals", "{\"workload\":\"w\",\"reason\":\"a test\",\"staySeconds\":0}");
    assertThat(started.status()).isEqualTo(201);
    String id = JSON.readTree(started.body()).path("id").asString();
    assertThat(operator
            .post("/api/rehearsals", "{\"workload\":\"w\",\"reason\":\"again\"}")
            .body())
        .contains("waits or goes on already");
    new RehearseWith(server.estate).finish(id);
    JsonNode done = JSON.readTree(operator.get("/api/rehearsals/" + id).body());
    assertThat(done.path("outcome").asString()).isEqualTo("passed");
    assertThat(done.path("rehearsed").asBoolean()).isTrue();
    assertThat(done.path("cleanup").asString()).isEqualTo("done");
    assertThat(done.path("members"))
        .allSatisfy(m -> assertThat(m.path("state").asString()).isEqualTo("up"));
    JsonNode all = JSON.readTree(operator.get("/api/rehearsals?workload=w").body());
    assertThat(all.path("done")).hasSize(1);
    assertThat(
            JSON.readTree(operator.get("/api/rehearsals?workload=other").body()).path("done"))
        .isEmpty();
    RunningServer.Answer cancelled = operator.delete("/api/rehearsals/" + id);
    assertThat(cancelled.status()).isEqualTo(422);
    assertThat(cancelled.body()).contains("has ended already");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{\"workload\":\"none\"} | 404 | No workload 'none' is known",
        "{\"workload\":\"w\",\"moment\":\"yesterday\"} | 400 | 'yesterday' is no moment that has been",
        "{\"workload\":\"w\",\"moment\":\"2999-01-01T00:00:00Z\"} | 400 | is no moment that has been",
        "{\"workload\":\"w\",\"moment\":\"1969-12-31T23:59:59Z\"} | 400 | is no moment that has been",
        "{\"workload\":\"w\",\"atOnce\":0} | 400 | Members at once are 1 to 16",
        "{\"workload\":\"w\",\"atOnce\":17} | 400 | Members at once are 1 to 16",
        "{\"workload\":\"w\",\"staySeconds\":-1} | 400 | at most 8 hours",
        "{\"workload\":\"w\",\"staySeconds\":28801} | 400 | at most 8 hours",
        "{\"workload\":\"w\",\"holdMinutes\":10081} | 400 | at most 7 days",
        "{\"workload\":\"w\",\"loss\":{\"site\":[\"Nowhere\"]}} | 400 | No store names the site 'Nowhere'",
      })
  void whatCanNotBeIsSaid(String draft, int status, String said) {
    RunningServer.Answer answer = operator.post("/api/rehearsal-plans", draft);
    assertThat(answer.status()).isEqualTo(status);
    assertThat(answer.body()).contains(said);
  }

  @Test
  void aReasonIsAskedForAndAnAuditorOnlyLooks() {
    RunningServer.Answer without = operator.post("/api/rehearsals", "{\"workload\":\"w\"}");
    assertThat(without.status()).isEqualTo(422);
    assertThat(without.body()).contains("Say why it is rehearsed");
    RunningServer.Client auditor = server.as(Role.AUDITOR);
    assertThat(auditor.get("/api/rehearsals").status()).isEqualTo(200);
    assertThat(auditor
            .post("/api/rehearsals", "{\"workload\":\"w\",\"reason\":\"I want to\"}")
            .status())
        .isEqualTo(403);
    assertThat(operator.get("/api/rehearsals/none").status()).isEqualTo(404);
  }

  /** A store that is lost, and with it all there is. */
  @Test
  void whatTheLossTakesIsNotReadFrom() {
    JsonNode plan = JSON.readTree(operator
        .post("/api/rehearsal-plans", "{\"workload\":\"w\",\"loss\":{\"store\":[\"near\"]}}")
        .body());
    assertThat(plan.path("refusal").asString())
        .startsWith("SHARE and DB have no usable point of then on a store that is left");
    assertThat(plan.path("loss").asString()).isEqualTo("NEAR");
  }
}
