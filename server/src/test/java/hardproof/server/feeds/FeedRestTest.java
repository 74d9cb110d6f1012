package hardproof.server.feeds;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.findings.Pending;
import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Answer;
import hardproof.server.RunningServer.Client;
import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** Recipes, what is expected of feeds, what is pending, and jobs, through the REST interface. */
class FeedRestTest {
  @TempDir
  static Path folder;

  private static RunningServer server;
  private static Client operator;

  @BeforeAll
  static void start() throws IOException {
    server = new RunningServer(folder).with(Role.OPERATOR, Role.AUDITOR);
    operator = server.as(Role.OPERATOR);
  }

  @AfterAll
  static void stop() {
    server.close();
  }

  @Test
  void whoHandsInMaySayHowFarItHasLooked() {
    byte[] rows = "key,name\nfar,Far\n".getBytes(StandardCharsets.UTF_8);
    JsonNode preview = operator
        .multipart(
            "/api/imports",
            "files",
            "workloads.csv",
            rows,
            Map.of("feed", "looked", "coversUntil", "2026-11-24T09:30:00Z"))
        .json();
    assertThat(preview.path("files").path(0).path("toldUntil").asString())
        .isEqualTo("2026-11-24T09:30:00Z");
    operator.post(
        "/api/imports/" + preview.path("id").asString() + "/acceptance", "{\"takeGoodRows\":true}");
    JsonNode feed = operator
        .get("/api/feeds")
        .json()
        .path("feeds")
        .valueStream()
        .filter(f -> f.path("key").asString().equals("looked"))
        .findFirst()
        .orElseThrow();
    assertThat(feed.path("horizon").asString()).isEqualTo("2026-11-24T09:30:00Z");
  }

  private static final String RECIPE = """
      {"name":"theirs","zone":"%s","timePattern":"dd.MM.yyyy HH:mm","outputs":[{"file":"points","fields":{
       "key":{"column":"ID"},"resource":{"column":"Client"},"data_time":{"column":"Start"},
       "outcome":{"column":"Status","meanings":{"ok":"complete"}},"form":{"otherwise":"full"},
       "policy":{"column":"","expression":" "}}}]}""";

  private static final byte[] EXPORT =
      "ID;Client;Start;Status\nx1;db;24.11.2026 03:10;OK\n".getBytes(StandardCharsets.UTF_8);

  @Test
  void aReportIsGuessedTriedKeptAndTaken() {
    JsonNode guess = operator
        .multipart(
            "/api/recipe-suggestions",
            "report",
            "sessions.csv",
            EXPORT,
            Map.of("name", "theirs", "zone", "Europe/Oslo"))
        .json();
    JsonNode points = guess
        .path("recipe")
        .path("outputs")
        .valueStream()
        .filter(o -> o.path("file").asString().equals("points"))
        .findFirst()
        .orElseThrow();
    assertThat(points.path("fields").path("resource").path("column").asString())
        .isEqualTo("client");
    assertThat(guess.path("columns").path(0).path("samples").path(0).asString()).isEqualTo("x1");
    assertThat(guess.path("notes").toString())
        .contains("Times say no zone: they are read as Europe/Oslo.");
    assertThat(
            guess.path("outputs").path(1).path("rows").path(0).path("started").asString())
        .isEqualTo("2026-11-24T02:10:00Z");
    assertThat(operator
            .multipart(
                "/api/recipe-suggestions",
                "report",
                "s.csv",
                EXPORT,
                Map.of("name", "theirs", "zone", "Narnia"))
            .detail())
        .startsWith("'Narnia' is no time zone");
    assertThat(operator
            .multipart(
                "/api/recipe-suggestions",
                "report",
                "s.csv",
                new byte[] {(byte) 0xC3, 0x28, '\n'},
                Map.of("name", "theirs"))
            .detail())
        .contains("is not UTF-8 text");
    assertThat(operator.put("/api/recipes", RECIPE.formatted("Narnia")).detail())
        .contains("'Narnia' is no time zone");
    assertThat(operator
            .put(
                "/api/recipes",
                RECIPE.formatted("UTC").replace("\"column\":\"ID\"", "\"expression\":\"id +\""))
            .detail())
        .contains("n points.key: “id +”, line 1, column");
    assertThat(operator.put("/api/recipes", RECIPE.formatted("Europe/Oslo")).status())
        .isEqualTo(204);
    assertThat(operator.get("/api/recipes").json().path(0).path("zone").asString())
        .isEqualTo("Europe/Oslo");
    JsonNode preview = operator
        .multipart(
            "/api/imports",
            "files",
            "sessions.csv",
            EXPORT,
            Map.of("feed", "theirs", "recipe", "theirs"))
        .json();
    assertThat(preview.path("files").path(0).path("added").asInt()).isEqualTo(1);
    assertThat(operator
            .multipart(
                "/api/imports",
                "files",
                "sessions.csv",
                EXPORT,
                Map.of("feed", "x", "recipe", "none"))
            .detail())
        .isEqualTo("No recipe 'none' is known.");
    assertThat(operator.delete("/api/recipes/theirs").status()).isEqualTo(204);
    assertThat(operator.delete("/api/recipes/theirs").detail())
        .isEqualTo("No recipe 'theirs' is known.");
    assertThat(
            server.as(Role.AUDITOR).put("/api/recipes", RECIPE.formatted("UTC")).status())
        .isEqualTo(403);
  }

  private static JsonNode feed(String key) {
    return operator
        .get("/api/feeds")
        .json()
        .path("feeds")
        .valueStream()
        .filter(f -> f.path("key").asString().equals(key))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void whatIsExpectedOfAFeedIsCheckedBeforeAnythingIsKept() {
    Answer wrong = operator.put(
        "/api/feeds/test", "{\"expectedEvery\":\"26h\",\"fullListings\":[\"points\"]}");
    assertThat(wrong.status()).isEqualTo(422);
    assertThat(wrong.detail()).contains("Only resources are listed in full");
    assertThat(feed("test").has("expectedEveryMs")).as("nothing of it was kept").isFalse();
    assertThat(operator.put("/api/feeds/test", "{\"fullListings\":[\"songs\"]}").status())
        .isEqualTo(400);
    assertThat(operator
            .put(
                "/api/feeds/test", "{\"expectedEvery\":\"2000h\",\"fullListings\":[\"resources\"]}")
            .status())
        .isEqualTo(204);
    assertThat(feed("test").path("fullListings").path(0).asString()).isEqualTo("resources");
    assertThat(operator.put("/api/feeds/test", "{\"expectedEvery\":\"2000h\"}").status())
        .isEqualTo(204);
    assertThat(feed("test").path("fullListings").size()).as("left as it is").isEqualTo(1);
    assertThat(operator.put("/api/feeds/nobody", "{}").status()).isEqualTo(404);
    operator.put("/api/feeds/test", "{\"fullListings\":[]}");
  }

  @Test
  void pendingFactsAreCountedAsTheyWereKnown() throws IOException {
    FeedStore feeds = server.estate.installation.feeds();
    server.estate.clock.forward(Duration.ofHours(1));
    var before = server.estate.clock.instant();
    server.estate.clock.forward(Duration.ofHours(1));
    server.estate.take(
        "copies.csv", "point,store,state\nlater,near,present\nshare-1,nowhere,present\n");
    server.estate.take("resources.csv", "key,name,kind,workload\nlost,LOST,volume,none\n");
    var then = server.estate.clock.instant();
    assertThat(feeds.pending(then)).containsEntry("test", new Pending(3, List.of("nowhere")));
    assertThat(feeds.pending(before)).doesNotContainKey("test");
    server.estate.clock.forward(Duration.ofHours(1));
    server.estate.take("workloads.csv", "key,name\nnone,None\n");
    assertThat(feeds.pending(server.estate.clock.instant()))
        .containsEntry("test", new Pending(2, List.of("nowhere")));
    assertThat(feeds.pending(then))
        .as("as it was then")
        .containsEntry("test", new Pending(3, List.of("nowhere")));
    assertThat(operator
            .get("/api/findings?search=feed%20names&limit=500")
            .json()
            .path("rows")
            .valueStream()
            .map(r -> r.path("sentence").asString()))
        .containsExactly(
            "2 facts of feed test name another that is not known; they are kept and join"
                + " when the other comes; store nowhere is not known, so no copy there can be read");
  }

  @Test
  void jobsAreSummedUpWithWhatFailsAgain() throws IOException {
    String now = server.estate.clock.instant().minus(Duration.ofHours(2)).toString();
    String week = server.estate.clock.instant().minus(Duration.ofDays(7)).toString();
    String old = server.estate.clock.instant().minus(Duration.ofDays(15)).toString();
    server.estate.take(
        "jobs.csv",
        "key,type,resource,started,outcome,message\n"
            + "j1,backup,db," + now + ",succeeded,\n"
            + "j2,copy,db," + now + ",failed,quota exceeded\n"
            + "j3,copy,share," + week + ",failed,quota exceeded\n"
            + "j4,copy,share," + old + ",failed,quota exceeded\n");
    JsonNode summary = operator.get("/api/job-summary").json();
    assertThat(summary.path("lastDay").toString())
        .isEqualTo("[{\"type\":\"backup\",\"outcomes\":{\"succeeded\":1}},"
            + "{\"type\":\"copy\",\"outcomes\":{\"failed\":1}}]");
    assertThat(summary.path("twoWeeks").path(1).path("outcomes").path("failed").asInt())
        .isEqualTo(2);
    assertThat(summary.path("sentences").path(0).asString())
        .isEqualTo("copy failed 2 times on 2 resources, each time: quota exceeded");
  }

  @Test
  void nothingIsUnderWayWhenNothingIs() {
    assertThat(operator.get("/api/imports").body()).isEqualTo("[]");
  }
}
