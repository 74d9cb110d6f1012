package hardproof.server.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.WithServer;
import java.time.Duration;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Controls, and packs from reading first to the PDF, over REST. */
class EvidenceRestTest extends WithServer {
  @Test
  void everyControlIsToldWithWhatIsNotLookedAt() {
    JsonNode controls = client.get("/api/controls").json().path("controls");
    assertThat(controls.size()).isEqualTo(hardproof.core.controls.PublicControl.values().length);
    JsonNode tests = controls
        .valueStream()
        .filter(c -> c.path("reference").asString().equals("CIS 11.5"))
        .findFirst()
        .orElseThrow();
    assertThat(tests.path("state").asString()).isEqualTo("other-than-satisfied");
    assertThat(tests.path("outcomes").path("not-met").asInt()).isPositive();
    assertThat(tests.path("criteria").get(0).path("title").asString()).isNotBlank();
    controls.forEach(c -> assertThat(c.path("notLookedAt").asString()).isNotBlank());
    assertThat(client.get("/api/controls.csv").body())
        .startsWith("publication,control,title,tier,");
  }

  @Test
  void aScopeOfNothingHasNothingToSay() {
    JsonNode controls = client
        .get(
            "/api/controls?selector=%7B%22all%22%3A%5B%7B%22field%22%3A%22name%22%2C%22in%22%3A%5B%22nobody%22%5D%7D%5D%7D")
        .json()
        .path("controls");
    controls.forEach(
        c -> assertThat(c.path("state").asString()).isIn("not-applicable", "not-looked-at"));
  }

  @Test
  void aPeriodThatEndsBeforeItBeginsIsRefused() {
    for (String path : new String[] {"/api/controls", "/api/packs/preview/report"}) {
      var answer = client.get(path + "?from=2099-01-01T00:00:00Z");
      assertThat(answer.status()).as(path).isEqualTo(400);
      assertThat(answer.json().path("detail").asString()).contains("begins before");
    }
  }

  @Test
  void aTitleThatReadsOtherwiseThanItIsWrittenIsRefused() {
    var answer = client.post("/api/packs", "{\"title\":\"fdp.\\u202Etroper\"}");
    assertThat(answer.status()).isEqualTo(400);
    assertThat(answer.json().path("detail").asString()).contains("U+202E");
    assertThat(client
            .post("/api/packs", "{\"title\":\"" + "x".repeat(10_000) + "\"}")
            .status())
        .isEqualTo(400);
  }

  @Test
  void aReportIsReadBeforeItIsIssuedAndAfterwardsAsPdf() {
    var read = client.get("/api/packs/preview/report?title=First%20look");
    assertThat(read.body())
        .contains("<h1>First look</h1>", "It is put here when the pack is issued.");
    String id =
        client.post("/api/packs", "{\"title\":\"Second\"}").json().path("id").asString();
    JsonNode task = Awaitility.await()
        .atMost(Duration.ofSeconds(60))
        .until(
            () -> client.get("/api/pack-tasks/" + id).json(),
            t -> !t.path("state").asString().equals("working"));
    assertThat(task.path("state").asString()).isEqualTo("done");
    long pack = task.path("pack").path("id").asLong();
    assertThat(client.get("/api/packs/" + pack + "/report.pdf").body()).startsWith("%PDF-1.");
    assertThat(client.get("/api/packs/" + pack + "/report").body()).contains("root <span>");
    assertThat(client.delete("/api/pack-tasks/" + id).json().path("state").asString())
        .isEqualTo("done");
    assertThat(client.delete("/api/pack-tasks/none").status()).isEqualTo(404);
  }
}
