package hardproof.server.policies;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Answer;
import hardproof.server.RunningServer.Client;
import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** Policies and standards through the REST interface: reading, trying, keeping, and two editors. */
class PoliciesTest {
  @TempDir
  static Path folder;

  private static RunningServer server;
  private static Client operator;
  private static Client auditor;
  private static Client administrator;

  @BeforeAll
  static void start() throws IOException {
    server = new RunningServer(folder).with(Role.OPERATOR, Role.AUDITOR, Role.ADMINISTRATOR);
    operator = server.as(Role.OPERATOR);
    auditor = server.as(Role.AUDITOR);
    administrator = server.as(Role.ADMINISTRATOR);
  }

  @AfterAll
  static void stop() {
    server.close();
  }

  private static String form(String key, String schedule) {
    return "{\"fields\":{\"key\":\"" + key + "\",\"name\":\"Nightly\",\"schedule\":\"" + schedule
        + "\",\"keep_last\":\"14\",\"keep_weekly\":\"4\",\"keep_monthly\":\"12\"}}";
  }

  @Test
  void twoEditorsTheSecondIsToldAndNothingIsOverwritten() {
    assertThat(operator.post("/api/policies", form("nightly", "0 22 * * *")).status())
        .isEqualTo(201);
    Answer seen = auditor.get("/api/policies/nightly");
    String tag = seen.response().headers().firstValue("ETag").orElseThrow();
    assertThat(seen.json().path("promises").toString())
        .contains("its long tail needs 16 separate fulls");
    server.estate.clock.forward(Duration.ofSeconds(5));
    assertThat(operator
            .put("/api/policies/nightly", form("nightly", "0 23 * * *"), tag)
            .status())
        .isEqualTo(204);
    Answer second = administrator.put("/api/policies/nightly", form("nightly", "12h"), tag);
    assertThat(second.status()).isEqualTo(409);
    assertThat(second.detail())
        .contains("was changed by somebody else")
        .contains("Nothing was overwritten");
    assertThat(auditor
            .get("/api/policies/nightly")
            .json()
            .path("fields")
            .path("schedule")
            .asString())
        .isEqualTo("0 23 * * *");
    assertThat(operator.post("/api/policies", form("nightly", "12h")).detail())
        .isEqualTo("There is 'nightly' already; choose another key.");
  }

  @Test
  void whatComesByAFeedIsNotChangedHere() {
    Answer answer = operator.put("/api/policies/daily", form("daily", "12h"), "\"0\"");
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.detail()).contains("comes by the feed test");
    assertThat(operator
            .post("/api/policy-trials", form("daily", "FREQ=DAILY;BYHOUR=2;BYMINUTE=0;BYSECOND=0"))
            .status())
        .as("trying is free")
        .isEqualTo(200);
  }

  @Test
  void wrongFieldsAreAllSaidAtOnce() {
    Answer answer = operator.post(
        "/api/policies",
        "{\"fields\":{\"key\":\"p\",\"name\":\"P\",\"schedule\":\"now and then\",\"keep_for\":\"long\"}}");
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.detail())
        .contains("schedule \"now and then\" is no schedule")
        .contains("keep_for \"long\" is not a duration");
    assertThat(
            operator.post("/api/policies", "{\"fields\":{\"colour\":\"red\"}}").detail())
        .isEqualTo("'colour' is no field of a policy.");
    assertThat(auditor.post("/api/policies", form("mine", "24h")).status()).isEqualTo(403);
  }

  @Test
  void aSelectorSaysWhatMatchesAndWhyNot() {
    JsonNode matches = auditor
        .post(
            "/api/selector-matches",
            "{\"selector\":\"{\\\"all\\\":[{\\\"field\\\":\\\"kind\\\",\\\"in\\\":[\\\"database\\\"]}]}\"}")
        .json();
    assertThat(matches.path("matched").asInt()).isEqualTo(1);
    assertThat(matches.path("nearly").asInt()).isEqualTo(1);
    assertThat(matches.path("rows").path(1).path("why").asString())
        .isEqualTo("kind is file-share, not database");
    assertThat(auditor.post("/api/selector-matches", "{\"selector\":\"[]\"}").detail())
        .startsWith("The selector is not a selector such as");
    assertThat(auditor
            .get("/api/selector-fields")
            .json()
            .path("values")
            .path("kind")
            .size())
        .isEqualTo(9);
  }

  @Test
  void pointsThatGoNextAreForetold() {
    JsonNode next =
        auditor.get("/api/resources/share/next-to-go?asAt=2026-11-24T10:00:00Z").json();
    assertThat(next.path("points").size()).isEqualTo(2);
    assertThat(next.path("reach").path(0).path("reachMs").asLong()).isEqualTo(30 * 3_600_000L);
    assertThat(auditor.get("/api/resources/none/next-to-go").status()).isEqualTo(404);
  }

  @Test
  void aStandardIsTriedSavedAndPutInForce() {
    JsonNode draft = auditor.get("/api/standards/Default/1").json();
    String stricter = draft.toString().replace("\"24h\"", "\"1h\"");
    JsonNode trial = auditor.post("/api/standard-trials", stricter).json();
    assertThat(trial.path("differences").path("turned").asInt()).isGreaterThan(0);
    assertThat(trial.path("counts").toString()).contains("fresh-exposure-now");
    String change = "{\"draft\":" + stricter + ",\"basedOn\":1,\"note\":\"an hour\"}";
    assertThat(auditor.post("/api/standards", change).status()).isEqualTo(403);
    JsonNode saved = administrator.post("/api/standards", change).json();
    assertThat(saved.path("version").asInt()).isEqualTo(2);
    Answer second = administrator.post("/api/standards", change);
    assertThat(second.status()).isEqualTo(409);
    assertThat(second.detail())
        .contains("Somebody has saved version 2 of 'Default' while you changed version 1");
    String before = auditor.get("/api/board").json().path("standard").asString();
    assertThat(before).isEqualTo("Default 1");
    String earlier = server.estate.clock.instant().toString();
    server.estate.clock.forward(Duration.ofMinutes(1));
    assertThat(administrator
            .put("/api/standards/in-force", "{\"name\":\"Default\",\"version\":2}")
            .status())
        .isEqualTo(204);
    assertThat(auditor.get("/api/board").json().path("standard").asString()).isEqualTo("Default 2");
    assertThat(auditor.get("/api/board?asAt=" + earlier).json().path("standard").asString())
        .as("what held then holds for then")
        .isEqualTo("Default 1");
    administrator.put("/api/standards/in-force", "{\"name\":\"Default\",\"version\":1}");
  }

  @Test
  void standardsThatCantBeRightAreRefusedWithTheirPlace() {
    String draft = auditor.get("/api/standards/Strict/1").body();
    assertThat(auditor
            .post("/api/standard-trials", draft.replace("\"rpo\":\"4h\"", "\"rpo\":\"soon\""))
            .detail())
        .isEqualTo("Tier 2: RPO: 'soon' is not a duration; write it as PT4H, P14D, 4h or 14d.");
    assertThat(auditor
            .post("/api/standard-trials", draft.replace("\"zone\":\"Z\"", "\"zone\":\"Narnia\""))
            .detail())
        .contains("'Narnia' is no time zone");
    assertThat(auditor.get("/api/standards/Strict/9").status()).isEqualTo(404);
  }

  private static JsonNode expression(String text) {
    return auditor
        .post(
            "/api/expression-trials",
            "{\"code\":\"own-x\",\"title\":\"T\",\"demand\":\"D\",\"expression\":\""
                + text.replace("\"", "\\\"") + "\"}")
        .json();
  }

  @Test
  void expressionsAreCheckedWithTheirPlaceAndTriedOnTheFacts() {
    JsonNode good = expression("kind == 'database' && copies >= 2");
    assertThat(good.path("met").asInt()).isEqualTo(1);
    assertThat(good.path("notMet").asInt()).isEqualTo(1);
    assertThat(good.path("rows").path(0).path("sentence").asString())
        .isEqualTo("SHARE does not meet it: kind = file-share, copies = 2");
    JsonNode wrong = expression("kind == 3");
    assertThat(wrong.path("problem").asString())
        .startsWith("line 1, column 6: found no matching overload");
    assertThat(wrong.path("column").asInt()).isEqualTo(6);
    assertThat(expression("colour == 'red'").path("problem").asString())
        .contains("undeclared reference to 'colour'");
    assertThat(expression("copies").path("problem").asString()).contains("bool");
    assertThat(expression("kind ==").path("problem").asString()).startsWith("line 1, column");
  }

  @Test
  void whatIsNotKnownIsNotEnoughData() {
    assertThat(expression("size_bytes > 5").path("notEnoughData").asInt()).isEqualTo(2);
    assertThat(
            expression("size_bytes > 5").path("rows").path(0).path("sentence").asString())
        .isEqualTo("size_bytes of DB is not known");
    assertThat(expression("last_drill > now - duration('720h')")
            .path("notEnoughData")
            .asInt())
        .isEqualTo(2);
  }

  /** Without a bound this would count to a hundred million. */
  @Test
  void costIsBounded() {
    String ten = "[1,2,3,4,5,6,7,8,9,10]";
    String nested = ten + ".all(a, " + ten + ".all(b, " + ten + ".all(c, " + ten
        + ".all(d, a + b + c + d > 0))))";
    JsonNode trial = expression(nested);
    assertThat(trial.path("met").asInt()).isZero();
    assertThat(trial.path("notEnoughData").asInt()).isEqualTo(2);
    assertThat(expression("true" + " && true".repeat(600)).path("problem").asString())
        .isNotEmpty();
  }
}
