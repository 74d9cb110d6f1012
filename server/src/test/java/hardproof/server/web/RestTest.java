package hardproof.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.criteria.CriterionCode;
import hardproof.server.Estate;
import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Answer;
import hardproof.server.RunningServer.Client;
import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** The REST interface of the real application. Tests share it and bring facts of their own. */
class RestTest {
  @TempDir
  static Path folder;

  private static RunningServer server;
  private static Client client;

  @BeforeAll
  static void start() throws IOException {
    server = new RunningServer(folder).with(Role.OPERATOR);
    client = server.as(Role.OPERATOR);
  }

  @AfterAll
  static void stop() {
    server.close();
  }

  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }

  @Test
  void theBoardSaysVerdictReasonAndFigures() {
    JsonNode row = client
        .get("/api/board")
        .json()
        .path("workloads")
        .valueStream()
        .filter(w -> w.path("key").asString().equals("w"))
        .findFirst()
        .orElseThrow();
    assertThat(row.path("verdict").asString()).isEqualTo("unproven");
    assertThat(row.path("sentence").asString())
        .isEqualTo("DB was never drilled; restored demanded");
    assertThat(row.path("rpoMs").asLong()).isEqualTo(24 * 3_600_000L);
    assertThat(row.path("copies").size()).isEqualTo(5);
    assertThat(row.path("ladder").path("words").asString()).contains("restored demanded");
  }

  @Test
  void theCaseFileHasEveryOutcomeWithItsArithmeticAndFactsThatOpen() {
    JsonNode file = client.get("/api/workloads/w").json();
    assertThat(file.path("members").size()).isEqualTo(2);
    JsonNode outcomes = file.path("members").path(0).path("outcomes");
    assertThat(outcomes.size()).isEqualTo(CriterionCode.values().length);
    int opened = 0;
    for (JsonNode outcome : outcomes) {
      assertThat(outcome.path("sentence").asString()).isNotEmpty();
      assertThat(outcome.path("why").asString()).isNotEmpty();
      for (JsonNode fact : outcome.path("facts")) {
        if (!Set.of("drills", "feeds").contains(fact.path("kind").asString())) {
          Answer state = client.get("/api/facts/" + fact.path("kind").asString() + "?key="
              + fact.path("key").asString());
          assertThat(state.status()).isEqualTo(200);
          assertThat(state.json().path("values").path("key")).isEqualTo(fact.path("key"));
          opened++;
        }
      }
    }
    assertThat(opened).isPositive();
  }

  @Test
  void everyResourceCanBeChosenByName() {
    JsonNode share = client
        .get("/api/resources")
        .json()
        .valueStream()
        .filter(r -> r.path("key").asString().equals("share"))
        .findFirst()
        .orElseThrow();
    assertThat(share.path("name").asString()).isEqualTo("SHARE");
    assertThat(share.path("workload").asString()).isEqualTo("Wages");
  }

  @Test
  void theExposureCurveIsOfThePeriodThatWasAskedFor() {
    JsonNode curve = client
        .get("/api/resources/share/exposure?from=2026-11-23T00:00:00Z&to=2026-11-24T09:00:00Z")
        .json();
    assertThat(curve.path("teeth").path(0).path("newest").isMissingNode()).isTrue();
    JsonNode last = curve.path("teeth").path(curve.path("teeth").size() - 1);
    assertThat(last.path("to").asLong() - last.path("newest").asLong()).isEqualTo(5 * 3_600_000L);
    assertThat(curve.path("lanes").path(0).path("ticks").size()).isEqualTo(2);
    assertThat(client
            .get("/api/resources/share/exposure?from=2026-11-24T00:00:00Z&to=2026-11-23T00:00:00Z")
            .detail())
        .startsWith("The period ends before it begins");
  }

  @Test
  void whatIsNotThereAndWhatIsWrittenWrongAreSaidPlainly() {
    problem(client.get("/api/workloads/nothing"), 404, "No workload 'nothing' is known.");
    problem(client.get("/api/resources/nothing/exposure"), 404, "No resource 'nothing' is known.");
    problem(client.get("/api/drill-runs/nothing"), 404, "No drill run nothing is known.");
    problem(client.get("/api/facts/recipes?key=a"), 404, "'recipes' is no kind of fact.");
    problem(client.get("/api/facts/points?key=a"), 404, "This fact is no longer known.");
    problem(
        client.get("/api/board?asAt=tomorrow"),
        400,
        "'tomorrow' can't be used for asAt; times are written as 2026-11-24T03:10:00Z.");
    problem(
        client.get("/api/board?asAt=2199-01-01T00:00:00Z"),
        400,
        "As at 2199-01-01T00:00:00Z is still to come; choose an instant that has been.");
    problem(
        client.get("/api/standards?asAt=%2B1000000000-01-01T00:00:00Z"),
        400,
        "As at +1000000000-01-01T00:00:00Z is still to come; choose an instant that has been.");
    problem(
        client.delete("/api/sandboxes/" + "a".repeat(65)),
        400,
        "'" + "a".repeat(65) + "' can't be the name of a sandbox.");
    problem(
        client.post("/api/drill-runs", "not json"),
        400,
        "The request is not the JSON that is expected here; the OpenAPI description tells.");
    problem(client.post("/api/drill-runs", "{}"), 400, "Resource must not be blank.");
    assertThat(client.get("/api/nothing").status()).isEqualTo(404);
    assertThat(client.get("/nothing.js").status()).isEqualTo(404);
  }

  private static void problem(Answer answer, int status, String detail) {
    assertThat(answer.detail()).isEqualTo(detail);
    assertThat(answer.status()).isEqualTo(status);
    assertThat(answer.response().headers().firstValue("content-type").orElse(""))
        .startsWith("application/problem+json");
  }

  @Test
  void anImportIsShownFirstAndStoredOnlyWhenAccepted() {
    JsonNode preview = client
        .upload("screen", "workloads-x.csv", bytes("key,name,tier\nx1,X one,1\nx2,X two,8\n"))
        .json();
    JsonNode file = preview.path("files").path(0);
    assertThat(List.of(
            file.path("read").asInt(),
            file.path("added").asInt(),
            file.path("rejected").asInt()))
        .containsExactly(2, 1, 1);
    assertThat(file.path("rejections").path(0).path("reason").asString())
        .isEqualTo("is not a whole number from 1 to 4");
    assertThat(client.get("/api/workloads/x1").status()).isEqualTo(404);
    String path = "/api/imports/" + preview.path("id").asString();
    Answer taken = client.post(path + "/acceptance", "{\"takeGoodRows\": true}");
    assertThat(taken.json().path(0).path("taken").asBoolean()).isTrue();
    assertThat(
            client.get("/api/workloads/x1").json().path("workload").path("name").asString())
        .isEqualTo("X one");
    problem(
        client.post(path + "/acceptance", "{\"takeGoodRows\": true}"),
        404,
        "This upload was accepted or dropped already, or the server was started again since. Hand the"
            + " files in once more.");
  }

  @Test
  void anImportThatIsDroppedLeavesNothing() {
    JsonNode preview =
        client.upload("screen", "workloads.csv", bytes("key,name\ny1,Y\n")).json();
    assertThat(client.delete("/api/imports/" + preview.path("id").asString()).status())
        .isEqualTo(204);
    assertThat(client.get("/api/workloads/y1").status()).isEqualTo(404);
    assertThat(server.estate.installation.folder().uploads()).isEmptyDirectory();
  }

  @Test
  void anUploadOf200MegabytesIsRefusedWithWhatToDoAndNothingIsStored() {
    problem(
        client.upload("screen", "points.csv", new byte[200_000_000]),
        413,
        "The upload is larger than the 100 MB that the screen takes; nothing was stored. Split it, or"
            + " bring it in with ./hard-proof import, which has no limit.");
    assertThat(client.get("/api/board").status()).isEqualTo(200);
  }

  @Test
  void aFeedNeedsANameAndARhythmThatIsOne() {
    problem(
        client.upload("a/b", "workloads.csv", bytes("key,name\n")),
        422,
        "Name the feed the files come from: letters, digits, spaces and . _ - only, at most 64.");
    problem(
        client.put("/api/feeds/test", "{\"expectedEvery\": \"now and then\"}"),
        400,
        "'now and then' is not a duration; write it as PT4H, P14D, 4h or 14d, or leave it empty to"
            + " expect nothing.");
    problem(
        client.put("/api/feeds/none", "{\"expectedEvery\": \"24h\"}"),
        404,
        "No feed 'none' is known.");
  }

  @Test
  void aDrillIsPlannedStartedAndWatched() throws InterruptedException {
    JsonNode choices = client.get("/api/drill-choices?resource=share").json();
    assertThat(choices.path("points").path(0).path("point").asString()).isEqualTo("share-2");
    JsonNode plan = client.post("/api/drill-plans", "{\"resource\": \"share\"}").json();
    assertThat(plan.path("method").asString()).isEqualTo("full-restore");
    assertThat(plan.path("readBytes").asLong()).isPositive();
    assertThat(plan.path("refusal").isMissingNode()).isTrue();
    problem(
        client.post("/api/drill-runs", "{\"resource\": \"share\"}"),
        422,
        "Say why it is drilled: the reason stands in the evidence.");
    JsonNode run = client
        .post("/api/drill-runs", "{\"resource\": \"share\", \"reason\": \"to see it\"}")
        .json();
    assertThat(run.path("restore").asString()).isEqualTo("waiting");
    server.estate.installation.queue().runOne();
    JsonNode ended = client.get("/api/drill-runs/" + run.path("id").asString()).json();
    assertThat(ended.path("passed").asBoolean()).isTrue();
    assertThat(ended.path("steps").size()).isEqualTo(4);
    assertThat(ended.path("requestedBy").asString()).isEqualTo("operator");
    problem(
        client.delete("/api/drill-runs/" + run.path("id").asString()),
        422,
        "This run has ended already; there is nothing to cancel.");
  }

  @Test
  void whatCanNotBeDrilledSaysWhyInThePlan() {
    assertThat(client
            .post(
                "/api/drill-plans",
                "{\"resource\": \"db\", \"method\": \"full-restore\", \"checks\": [{\"type\": \"query-equals\", \"subject\": \"SELECT 1\", \"expected\": \"1\"}]}")
            .json()
            .path("refusal")
            .asString())
        .startsWith("a check can't be asked after a drill by full restore");
    problem(
        client.post("/api/drill-plans", "{\"resource\": \"db\", \"holdMinutes\": 100000}"),
        400,
        "Restored data can be held for at most 7 days.");
    problem(
        client.post(
            "/api/drill-plans",
            "{\"resource\": \"db\", \"method\": \"database\", \"checks\": [{\"type\": \"query-equals\", \"subject\": \"DROP TABLE entry\", \"expected\": \"1\"}]}"),
        400,
        "The query must begin with SELECT or WITH.");
  }

  @Test
  void aProgrammeIsAddedListedAndEnded() {
    String programme =
        "{\"name\": \"Every night\", \"when\": {\"rule\": \"FREQ=DAILY;BYHOUR=2\", \"zone\": \"%s\", \"startWindow\": \"%s\"}, \"how\": {}}";
    problem(
        client.post("/api/programmes", programme.formatted("Mars", "4h")),
        400,
        "'Mars' is no time zone; write it as Europe/Oslo or UTC.");
    problem(
        client.post("/api/programmes", programme.formatted("UTC", "soon")),
        400,
        "The start window is not a duration; write it as PT4H, P14D, 4h or 14d.");
    String choosing = programme.formatted("UTC", "4h").replace("\"how\": {}", "\"how\": {%s}");
    problem(
        client.post(
            "/api/programmes", choosing.formatted("\"point\": \"random\", \"within\": \"long\"")),
        400,
        "The age of the points is not a duration; write it as PT4H, P14D, 4h or 14d.");
    problem(
        client.post(
            "/api/programmes", choosing.formatted("\"point\": \"oldest\", \"within\": \"30d\"")),
        400,
        "An age bounds what is drawn at random, and nothing else.");
    problem(
        client.post(
            "/api/programmes", choosing.formatted("\"copy\": \"store\", \"store\": \"mars\"")),
        400,
        "There is no store 'mars'.");
    problem(
        client.get("/api/programmes/every-night/starts/2026-11-24T02:00:00Z/draw"),
        404,
        "Nothing was drawn at random at the start of 'every-night' at 2026-11-24T02:00:00Z.");
    assertThat(client.post("/api/programmes", programme.formatted("UTC", "4h")).status())
        .isEqualTo(201);
    assertThat(client.post("/api/programmes", programme.formatted("UTC", "4h")).status())
        .isEqualTo(409);
    JsonNode calendar = client.get("/api/programmes").json();
    assertThat(calendar.path("programmes").path(0).path("key").asString()).isEqualTo("every-night");
    assertThat(calendar.path("programmes").path(0).path("words").path("point").asString())
        .isEqualTo("the newest");
    assertThat(calendar.path("programmes").path(0).path("words").path("copy").asString())
        .isEqualTo("not the copy drilled last");
    assertThat(calendar.path("ahead").path(0).path("due").asString()).startsWith("2026-11-25T02:0");
    assertThat(client.delete("/api/programmes/every-night").status()).isEqualTo(204);
    assertThat(client.delete("/api/programmes/every-night").status()).isEqualTo(404);
  }

  @Test
  void aPackIsMadeReadVerifiedAndDownloaded() {
    assertThat(client
            .post(
                "/api/packs",
                "{\"scope\": \"{\\\"all\\\":[{\\\"field\\\":\\\"name\\\",\\\"in\\\":[\\\"nobody\\\"]}]}\"}")
            .detail())
        .startsWith("Nothing matches this scope");
    JsonNode pack =
        done(client.post("/api/packs", "{\"title\": \"For the assessor\"}")).path("pack");
    String path = "/api/packs/" + pack.path("id").asInt();
    Answer report = client.get(path + "/report");
    assertThat(report.body()).contains("For the assessor").doesNotContain("operator A.");
    assertThat(report.response().headers().firstValue("content-security-policy").orElse(""))
        .contains("default-src 'none'");
    JsonNode verification = done(client.post(path + "/verification", "{}")).path("verification");
    assertThat(verification.path("checks").size()).isEqualTo(19);
    for (JsonNode check : verification.path("checks")) {
      assertThat(check.path("passed").asBoolean()).isTrue();
    }
    assertThat(client
            .get(path + "/file")
            .response()
            .headers()
            .firstValue("content-disposition")
            .orElse(""))
        .contains(pack.path("name").asString() + ".zip");
  }

  /** The task of an answer when it is over. */
  private static JsonNode done(Answer begun) {
    assertThat(begun.status()).isEqualTo(202);
    String task = "/api/pack-tasks/" + begun.json().path("id").asString();
    return Awaitility.await()
        .atMost(Duration.ofSeconds(60))
        .until(() -> client.get(task).json(), t -> t.path("state").asString().equals("done"));
  }

  @Test
  void aTaskOrAPackThatIsNotThereIsSaidPlainly() {
    problem(
        client.get("/api/pack-tasks/x"),
        404,
        "This task is not known any more; the list of packs tells what was made.");
    problem(client.post("/api/packs/99/verification", "{}"), 404, "No pack 99 was issued.");
  }

  @Test
  void thePageAllowsNoScriptOrStyleButItsOwn() {
    Answer page = client.get("/board?w=w");
    String policy =
        page.response().headers().firstValue("content-security-policy").orElse("");
    assertThat(policy).contains("script-src 'self'").doesNotContain("unsafe");
    String nonce = policy.replaceAll(".*'nonce-([^']+)'.*", "$1");
    assertThat(page.body()).contains("content=\"" + nonce + "\"");
    assertThat(client
            .get("/board")
            .response()
            .headers()
            .firstValue("content-security-policy")
            .orElse(""))
        .doesNotContain(nonce);
  }

  @Test
  void lookingBackShowsWhatWasKnownThen() {
    assertThat(client
            .get("/api/board?asAt=" + Estate.NOW.minusSeconds(60))
            .json()
            .path("workloads")
            .size())
        .isZero();
  }
}
