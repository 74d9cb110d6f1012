package hardproof.server.programmes;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Answer;
import hardproof.server.RunningServer.Client;
import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** The coming nights, programmes and capacity over REST: what two editors and impossible wishes get. */
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class ForecastRestTest {
  @TempDir
  static Path folder;

  private static RunningServer server;
  private static Client client;

  @BeforeAll
  static void start() throws IOException {
    server = new RunningServer(folder).with(Role.OPERATOR, Role.AUDITOR);
    client = server.as(Role.OPERATOR);
  }

  @AfterAll
  static void stop() {
    server.close();
  }

  private static String programme(String more) {
    return "{\"name\": \"Needed\"" + (more.isEmpty() ? "" : ", " + more) + "}";
  }

  private static void refused(Answer answer, String detail) {
    assertThat(answer.detail()).isEqualTo(detail);
    assertThat(answer.status()).isEqualTo(400);
  }

  @Test
  @Order(1)
  void whatNothingRenewsIsSaid() {
    JsonNode forecast = client.get("/api/forecast").json();
    assertThat(forecast.path("sentence").asString())
        .isEqualTo(
            "No proof lapses in the coming 90 days, and 2 are missing already; nothing will"
                + " renew 2 of them. This holds if every drill passes and points go on being made as they are.");
    assertThat(forecast.path("gaps").path(0).path("why").asString()).isEqualTo("no-programme");
    assertThat(forecast.path("nights").size()).isBetween(90, 92);
  }

  @Test
  @Order(2)
  void aProgrammeIsTriedBeforeItIsThere() {
    JsonNode with = client
        .post("/api/programme-trials", "{\"programme\": " + programme("") + "}")
        .json();
    assertThat(with.path("sentence").asString())
        .startsWith("No proof lapses in the coming 90 days, and 2 are missing already. This holds");
    assertThat(with.path("gaps").valueStream())
        .allSatisfy(g -> assertThat(g.path("until").isString()).isTrue());
    assertThat(client.get("/api/programmes").json().path("programmes").size()).isZero();
    assertThat(server.as(Role.AUDITOR).post("/api/programmes", programme("")).status())
        .isEqualTo(403);
  }

  @Test
  @Order(3)
  void whatCanNotBeIsRefused() {
    refused(
        client.post("/api/programmes", programme("\"when\": {\"hours\": \"all night\"}")),
        "'all night' is not hours of a day; write 22:00-06:00, or not 08:00-18:00.");
    refused(
        client.post("/api/programmes", programme("\"how\": {\"hold\": \"31d\"}")),
        "What is restored is held for up to 30 days.");
    refused(
        client.post("/api/programmes", programme("\"how\": {\"showing\": \"rung\"}")),
        "A programme names a method or a rung where it drills by one, and only there.");
    refused(
        client.post("/api/programmes", programme("\"limits\": {\"atOnce\": 0}")),
        "Restores at once are at least 1; leave it empty for no limit.");
    refused(
        client.post("/api/programmes", programme("\"limits\": {\"storeShare\": 1.5}")),
        "The share of a store's throughput is more than 0 and at most 1, such as 0.5.");
    refused(
        client.post("/api/programmes", programme("\"onFailure\": {\"tries\": 0, \"look\": true}")),
        "A drill is tried 1 to 10 times.");
    refused(
        client.post(
            "/api/programmes",
            programme("\"onFailure\": {\"tries\": 2, \"pause\": \"8d\", \"look\": true}")),
        "The wait between two tries is up to 7 days.");
    assertThat(client
            .post("/api/programmes", programme("\"limits\": {\"nightBytes\": \"many\"}"))
            .detail())
        .startsWith("The bytes of a night: 'many' ");
    // A rule that comes every second would start what has not ended.
    assertThat(client
            .post("/api/programmes", programme("\"when\": {\"rule\": \"FREQ=SECONDLY\"}"))
            .status())
        .isEqualTo(400);
    assertThat(client
            .post(
                "/api/programmes",
                programme("\"when\": {\"rule\": \"FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30\"}"))
            .status())
        .isEqualTo(400);
    assertThat(client.get("/api/programmes").json().path("programmes").size()).isZero();
  }

  @Test
  @Order(4)
  void ofTwoEditorsTheSecondIsToldAndNothingIsLost() {
    assertThat(client.post("/api/programmes", programme("")).status()).isEqualTo(201);
    JsonNode read = client.get("/api/programmes").json().path("programmes").path(0);
    assertThat(read.path("words").path("showing").asString()).isEqualTo("what each tier demands");
    String seen = "\"" + read.path("recordedAt").asLong() + "\"";
    assertThat(client
            .put("/api/programmes/needed", programme("\"how\": {\"hold\": \"2h\"}"), seen)
            .status())
        .isEqualTo(204);
    Answer second =
        client.put("/api/programmes/needed", programme("\"how\": {\"hold\": \"9h\"}"), seen);
    assertThat(second.status()).isEqualTo(409);
    assertThat(second.detail()).startsWith("Somebody else has changed Needed since you read it.");
    JsonNode now = client.get("/api/programmes").json().path("programmes").path(0);
    assertThat(now.path("says").path("how").path("hold").asString()).isEqualTo("2h");
    assertThat(now.path("changedBy").asString()).isEqualTo("operator");
    assertThat(client.put("/api/programmes/other", programme(""), seen).status())
        .isEqualTo(404);
    // As at the instant before it was begun there was none.
    JsonNode before = client.get("/api/programmes?asAt=2026-11-24T09:30:00Z").json();
    assertThat(before.path("programmes").size()).isZero();
  }

  @Test
  @Order(5)
  void whatThereIsToDrillWithIsSaidOnceAtATime() {
    JsonNode usual = client.get("/api/drill-capacity").json();
    assertThat(usual.path("says").path("atOnce").asInt()).isEqualTo(2);
    String zero =
        "{\"zone\": \"UTC\", \"atOnce\": 0, \"hours\": \"22:00-06:00\", \"sandboxBytes\": \"2 TB\"}";
    JsonNode with = client.post("/api/drill-capacity-trials", zero).json();
    assertThat(with.path("gaps").path(0).path("sentence").asString())
        .isEqualTo("programmes may start no drills at all");
    String seen = "\"" + usual.path("recordedAt").asLong() + "\"";
    assertThat(client.put("/api/drill-capacity", zero, seen).status()).isEqualTo(204);
    assertThat(client.put("/api/drill-capacity", zero, seen).status()).isEqualTo(409);
    JsonNode kept = client.get("/api/drill-capacity").json();
    assertThat(kept.path("says").path("sandboxBytes").asString()).isEqualTo("2000000000000");
    assertThat(kept.path("changedBy").asString()).isEqualTo("operator");
    JsonNode cure = client.get("/api/forecast/cures/at-once").json();
    assertThat(cure.path("what").asString()).isEqualTo("one more drill at once (1)");
    assertThat(cure.path("helps").asBoolean()).isTrue();
    assertThat(client.get("/api/forecast/cures/prayer").status()).isEqualTo(400);
  }

  @Test
  @Order(6)
  void aCapacityThatCanNotBeIsRefused() {
    for (List<String> wrong : List.of(
        List.of(
            "\"zone\": \"Mars\", \"atOnce\": 2",
            "'Mars' is no time zone; write it as Europe/Oslo or UTC."),
        List.of("\"zone\": \"UTC\", \"atOnce\": 17", "Drills at once are from 0 to 16, not 17."),
        List.of(
            "\"zone\": \"UTC\", \"atOnce\": 1, \"pricePerDrill\": -1",
            "A price is less than nothing, or beyond 1,000,000,000."),
        List.of(
            "\"zone\": \"UTC\", \"atOnce\": 1, \"hours\": \"6-6\"",
            "'6-6' is not hours of a day; write 22:00-06:00, or not 08:00-18:00."))) {
      refused(client.post("/api/drill-capacity-trials", "{" + wrong.get(0) + "}"), wrong.get(1));
    }
  }
}
