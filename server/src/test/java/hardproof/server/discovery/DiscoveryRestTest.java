package hardproof.server.discovery;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.census.CensusState;
import hardproof.core.copies.CopyState;
import hardproof.core.facts.Estate;
import hardproof.core.points.Form;
import hardproof.proving.checksums.Sha256;
import hardproof.server.RunningServer.Answer;
import hardproof.server.RunningServer.Client;
import hardproof.server.WithServer;
import hardproof.server.people.Role;
import hardproof.server.stores.Censuses;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** From files that nobody exports to verdicts. */
class DiscoveryRestTest extends WithServer {
  private Client administrator;
  private Path far;

  @BeforeEach
  void aStore() throws IOException {
    administrator = server.as(Role.ADMINISTRATOR);
    far = Files.createTempDirectory(server.estate.folder, "far");
    for (int day = 18; day <= 23; day++) {
      Instant at = Instant.parse("2026-11-%dT02:00:00Z".formatted(day));
      put("web_full-202611%d-0200.tar.gz".formatted(day), "web " + day, at);
      put(
          "mail_%s-202611%d-0200.tar.gz".formatted(day == 18 ? "full" : "inc", day),
          "mail " + day,
          at);
    }
  }

  private void put(String name, String content, Instant modified) throws IOException {
    Path file = far.resolve(name);
    Files.writeString(file, content);
    Files.setLastModifiedTime(file, FileTime.from(modified.plusSeconds(300)));
  }

  private static int stores;

  /** One of its own for each test: they share a server. */
  private String add() {
    return add("Far " + stores++);
  }

  private String add(String name) {
    return administrator
        .post(
            "/api/stores",
            "{\"name\":\"" + name + "\",\"medium\":\"disk\",\"path\":\"" + far + "\"}")
        .json()
        .path("store")
        .asString();
  }

  private void await() {
    server.estate.installation.part(Censuses.class).awaitEnd();
    server.estate.clock.forward(Duration.ofSeconds(30));
  }

  private Estate estate() {
    return server.estate.installation.evaluations().now().estate();
  }

  private void follow(String store, String patterns) {
    Answer followed = administrator.put(
        "/api/store-feeds?store=" + store,
        "{\"feed\":\"far files\",\"patterns\":[" + patterns + "]}");
    assertThat(followed.status()).as(followed.body()).isEqualTo(204);
    await();
  }

  private static final String BOTH =
      "{\"pattern\":\"{resource}_{form}-{yyyyMMdd-HHmm}.tar.gz\",\"kind\":\"file-share\",\"form\":\"full\"}";

  @Test
  void aStoreIsLookedIntoFollowedAndKept() throws IOException {
    String store = add("Far Away");
    assertThat(store).isEqualTo("far-away");
    JsonNode found = administrator.post("/api/discoveries?store=" + store, "{}").json();
    assertThat(found.path("looked").asInt()).isEqualTo(12);
    JsonNode series = found.path("series").get(0);
    assertThat(series.path("pattern").asString())
        .isEqualTo("{resource}_{form}-{yyyyMMdd-HHmm}.tar.gz");
    assertThat(series.path("everyMs").asLong()).isEqualTo(Duration.ofDays(1).toMillis());
    assertThat(series.path("formOfName").asBoolean()).isTrue();

    String sum = Sha256.of(Files.readAllBytes(far.resolve("web_full-20261123-0200.tar.gz")));
    put(
        "web_full-20261123-0200.tar.gz.sha256",
        sum + "  web_full-20261123-0200.tar.gz\n",
        Instant.parse("2026-11-23T02:05:00Z"));
    follow(store, BOTH);

    Estate known = estate();
    assertThat(known.resource("web").feed()).isEqualTo("far files");
    assertThat(known.pointSet("web").size()).isEqualTo(6);
    var newest = known.pointSet("mail").point(5);
    assertThat(newest.form()).isEqualTo(Form.INCREMENTAL);
    assertThat(newest.basedOn()).isEqualTo("far-away:mail_inc-20261122-0200.tar.gz");
    assertThat(newest.dataTime()).isEqualTo("2026-11-23T02:00:00Z");
    assertThat(known.pointSet("web").copiesOf(5).get(0).sha256()).isEqualTo(sum);
    assertThat(known.censusOf("web")).singleElement().satisfies(held -> {
      assertThat(held.state()).isEqualTo(CensusState.HELD);
      assertThat(held.point()).isEqualTo("far-away:web_full-20261123-0200.tar.gz");
    });
    assertThat(known.censusOf("mail").get(0).point())
        .isEqualTo("far-away:mail_inc-20261123-0200.tar.gz");
    assertThat(administrator
            .post("/api/discoveries?store=" + store, "{}")
            .json()
            .path("kept")
            .path("feed")
            .asString())
        .isEqualTo("far files");

    // What is gone was deleted, what came is known, and what was summed stays so.
    Files.delete(far.resolve("web_full-20261118-0200.tar.gz"));
    put("web_full-20261124-0200.tar.gz", "web 24", Instant.parse("2026-11-24T02:00:00Z"));
    assertThat(administrator.post("/api/censuses", "{\"store\":\"far-away\"}").status())
        .isEqualTo(201);
    await();
    known = estate();
    assertThat(known.pointSet("web").size()).isEqualTo(7);
    assertThat(known.pointSet("web").copiesOf(0).get(0).state()).isEqualTo(CopyState.DELETED);
    assertThat(known.pointSet("web").copiesOf(5).get(0).sha256()).isEqualTo(sum);
    assertThat(administrator.delete("/api/store-feeds?store=far-away").status()).isEqualTo(204);
    assertThat(administrator.delete("/api/store-feeds?store=far-away").status()).isEqualTo(404);
  }

  /** A name may say nothing of what it holds, or only that it holds statements. */
  @Test
  void whatANameDoesNotSayIsSeenByHowTheNewestBegins() throws IOException {
    for (int day = 18; day <= 22; day++) {
      Instant at = Instant.parse("2026-11-%02dT02:00:00Z".formatted(day));
      put("crm-202611%d-0200.sql".formatted(day), "--\n-- PostgreSQL database dump\n--\n", at);
      put("wiki@202611%d-0200".formatted(day), "SQLite format 3\0 and so on", at);
      put("misc+202611%d-0200.zip".formatted(day), "no zip at all", at);
    }
    JsonNode series =
        administrator.post("/api/discoveries?store=" + add(), "{}").json().path("series");
    Map<String, JsonNode> by = new HashMap<>();
    series.forEach(s -> by.put(s.path("resources").path(0).asString(), s));
    assertThat(by.get("crm").path("format").asString()).isEqualTo("pgsql");
    assertThat(by.get("wiki").path("format").asString()).isEqualTo("sqlite");
    assertThat(by.get("wiki").path("kind").asString()).isEqualTo("database");
    assertThat(by.get("misc").path("format").asString())
        .as("what begins like nothing is what its name says, until it is looked at whole")
        .isEqualTo("zip");
    assertThat(by.get("misc").path("begins").asString()).isEmpty();
  }

  @Test
  void whereNothingIsLeftNothingIsCalledDeleted() throws IOException {
    String store = add();
    follow(store, BOTH);
    Path moved = Files.createDirectories(far.resolve("elsewhere"));
    try (var files = Files.list(far)) {
      for (Path file : files.filter(Files::isRegularFile).toList()) {
        Files.move(file, moved.resolve(file.getFileName()));
      }
    }
    administrator.post("/api/censuses", "{\"store\":\"" + store + "\"}");
    await();
    assertThat(estate().pointSet("web").copiesOf(5).get(0).state()).isEqualTo(CopyState.PRESENT);
  }

  @Test
  void patternsOfAPersonAreTriedAndWhatFitsNoneIsShown() {
    String store = add();
    JsonNode found = administrator
        .post(
            "/api/discoveries?store=" + store,
            "{\"patterns\":[\"web_full-{yyyyMMdd-HHmm}.{resource}\"],\"zone\":\"Europe/Oslo\"}")
        .json();
    assertThat(found.path("series").get(0).path("resources").get(0).asString()).isEqualTo("tar.gz");
    assertThat(found.path("series").get(0).path("last").asString())
        .isEqualTo("2026-11-23T01:00:00Z");
    assertThat(found.path("unfit").asInt()).isEqualTo(6);
    assertThat(found.path("rest")).isNotEmpty();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "/api/discoveries?store=near|{'patterns':['web.tar']}|whose backups",
        "/api/discoveries?store=near|{'zone':'Nowhere/Else'}|is no time zone",
        "/api/discoveries?store=nowhere|{}|There is no store 'nowhere'.",
        "/api/stores|{'name':'***','medium':'disk'}|a letter or a digit",
        "/api/stores|{'name':'Other','medium':'disk','path':'/etc'}|lies outside of the folders",
        "/api/stores|{'name':'Near','medium':'disk'}|comes by the feed test"
      })
  void whatCannotBeIsRefused(String path, String body, String why) {
    Answer answer = administrator.post(path, body.replace('\'', '"'));
    assertThat(answer.status()).as(answer.body()).isBetween(400, 422);
    assertThat(answer.detail()).containsIgnoringCase(why);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{'feed':'a','patterns':[]}|Patterns size",
        "{'feed':'written here','patterns':[{'pattern':'{resource}.tar','kind':'volume','form':'full'}]}|another name",
        "{'feed':'a','patterns':[{'pattern':'web.tar','kind':'volume','form':'full'}]}|whose backups",
        "{'feed':'a','patterns':[{'pattern':'{resource}.tar','kind':'volume','form':'full','format':'odd'}]}|Is no format"
      })
  void whatCannotBeFollowedIsRefused(String body, String why) {
    Answer answer = administrator.put("/api/store-feeds?store=near", body.replace('\'', '"'));
    assertThat(answer.status()).as(answer.body()).isEqualTo(400);
    assertThat(answer.body()).contains(why);
  }

  @Test
  void anAuditorLooksAtNothingByThemselves() {
    assertThat(client.post("/api/discoveries?store=near", "{}").status()).isEqualTo(403);
    assertThat(
            client.post("/api/stores", "{\"name\":\"X\",\"medium\":\"disk\"}").status())
        .isEqualTo(403);
  }
}
