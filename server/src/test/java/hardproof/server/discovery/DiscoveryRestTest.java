package hardproof.server.discovery;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.census.CensusState;
import hardproof.core.copies.CopyState;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.points.Form;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.RunningServer.Answer;
import hardproof.server.RunningServer.Client;
import hardproof.server.WithServer;
import hardproof.server.people.Role;
import hardproof.server.stores.Censuses;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
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
    Files.writeString(file, content, StandardCharsets.ISO_8859_1);
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

  private static final Instant AT = Instant.parse("2026-11-24T03:00:00Z");

  private JsonNode series(String store) {
    return administrator
        .post("/api/discoveries?store=" + store, "{}")
        .json()
        .path("series")
        .get(0);
  }

  /** As what copies files one by one leaves them: a drill reads the folder whole. */
  @Test
  void aFolderOfATimeIsABackupAsAWhole() throws IOException {
    far = Files.createTempDirectory(server.estate.folder, "folders");
    for (int day = 22; day <= 23; day++) {
      Instant at = Instant.parse("2026-11-%dT02:00:00Z".formatted(day));
      for (String name : List.of("etc/hosts", "home/ana/notes.txt", "home/sums.md5")) {
        Path file = far.resolve("hosts/2026-11-" + day + "/" + name);
        Files.createDirectories(file.getParent());
        put("hosts/2026-11-" + day + "/" + name, "of " + day, at);
      }
    }
    String store = add();
    JsonNode found = series(store);
    assertThat(found.path("pattern").asString()).isEqualTo("{resource}/{yyyy-MM-dd}/");
    assertThat(found.path("ofFolders").asBoolean()).isTrue();
    assertThat(found.path("format").asString()).isEqualTo("folder");
    follow(
        store,
        "{\"pattern\":\"{resource}/{yyyy-MM-dd}/\",\"kind\":\"file-share\",\"form\":\"full\"}");
    PointSet hosts = estate().pointSet("hosts");
    assertThat(hosts.size()).isEqualTo(2);
    assertThat(hosts.point(1).sizeBytes()).isEqualTo(15);
    assertThat(hosts.copiesOf(1)).singleElement().satisfies(c -> {
      assertThat(c.place()).isEqualTo("hosts/2026-11-23");
      assertThat(c.format()).isEqualTo("folder");
      assertThat(c.sha256()).isNull();
    });
    assertThat(estate().censusOf("hosts").get(0).state()).isEqualTo(CensusState.HELD);

    // One file of it is gone: it is as long as it is now. All are gone: it was deleted.
    Sandboxes.removeTree(far.resolve("hosts/2026-11-22"));
    administrator.post("/api/censuses", "{\"store\":\"" + store + "\"}");
    await();
    assertThat(estate().pointSet("hosts").copiesOf(0).get(0).state()).isEqualTo(CopyState.DELETED);
    assertThat(estate().pointSet("hosts").copiesOf(1).get(0).state()).isEqualTo(CopyState.PRESENT);
  }

  /** Off-site and on-site are one point with two copies, whichever is listed first. */
  @Test
  void whatLiesOnTwoStoresIsOnePoint() throws IOException {
    Path first = far;
    for (int day = 18; day <= 23; day++) {
      put("both_full-202611%d-0200.tar.gz".formatted(day), "b" + day, AT);
    }
    String one =
        "{\"pattern\":\"both_{form}-{yyyyMMdd-HHmm}.{resource}.gz\",\"kind\":\"file-share\",\"form\":\"full\"}";
    String near = add();
    followAs(near, "near of both", one);
    far = Files.createTempDirectory(server.estate.folder, "other");
    Files.createDirectories(far.resolve("mirror"));
    for (int day = 20; day <= 23; day++) {
      String name = "both_full-202611%d-0200.tar.gz".formatted(day);
      put("mirror/" + name, Files.readString(first.resolve(name)), AT);
    }
    put("mirror/both_full-20261123-0200.tar.gz", "cut off", AT);
    put("mirror/both_full-20261124-0200.tar.gz", "b24", AT);
    String off = add();
    followAs(off, "off of both", one.replace("both_", "mirror/both_"));
    PointSet both = estate().pointSet("tar");
    assertThat(both.size()).as("one of another size, and one that is new").isEqualTo(8);
    assertThat(both.copiesOf(both.row(near + ":both_full-20261122-0200.tar.gz")))
        .extracting(c -> c.store())
        .containsExactlyInAnyOrder(near, off);
    assertThat(estate().resource("tar").feed()).isEqualTo("near of both");
    assertThat(estate().feed("off of both")).isNotNull();

    // What the second told first is the first's copy when it comes there.
    Files.delete(far.resolve("mirror/both_full-20261120-0200.tar.gz"));
    far = first;
    put("both_full-20261124-0200.tar.gz", "b24", AT);
    for (String store : List.of(near, off)) {
      administrator.post("/api/censuses", "{\"store\":\"" + store + "\"}");
      await();
    }
    both = estate().pointSet("tar");
    assertThat(both.size()).isEqualTo(8);
    assertThat(both.copiesOf(both.row(off + ":mirror/both_full-20261124-0200.tar.gz")))
        .hasSize(2)
        .allMatch(c -> c.state() == CopyState.PRESENT);
    assertThat(both.copiesOf(both.row(near + ":both_full-20261120-0200.tar.gz")))
        .extracting(c -> c.state())
        .containsExactlyInAnyOrder(CopyState.PRESENT, CopyState.DELETED);
  }

  private void followAs(String store, String feed, String pattern) {
    Answer followed = administrator.put(
        "/api/store-feeds?store=" + store,
        "{\"feed\":\"" + feed + "\",\"patterns\":[" + pattern + "]}");
    assertThat(followed.status()).as(followed.body()).isEqualTo(204);
    await();
  }

  /** The header of an image says what it rests on, by the specification of qcow2. */
  @Test
  void whetherItStandsAloneIsSeenByWhatItHolds() throws IOException {
    for (int day = 21; day <= 23; day++) {
      byte[] image = new byte[512];
      System.arraycopy(new byte[] {'Q', 'F', 'I', (byte) 0xfb, 0, 0, 0, 3}, 0, image, 0, 8);
      image[15] = (byte) (day == 21 ? 0 : 104);
      String name = "disk@202611%d-0200.qcow2".formatted(day);
      put(name, new String(image, StandardCharsets.ISO_8859_1), AT);
    }
    String store = add();
    String pattern = "{resource}@{yyyyMMdd-HHmm}.qcow2";
    JsonNode found = administrator
        .post("/api/discoveries?store=" + store, "{\"patterns\":[\"" + pattern + "\"]}")
        .json();
    assertThat(found.path("series").get(0).path("holds").asString()).isEqualTo("incremental");
    follow(
        store, "{\"pattern\":\"" + pattern + "\",\"kind\":\"virtual-machine\",\"form\":\"full\"}");
    PointSet vm = estate().pointSet("disk");
    assertThat(List.of(vm.form(0), vm.form(1), vm.form(2)))
        .containsExactly(Form.FULL, Form.INCREMENTAL, Form.INCREMENTAL);
    assertThat(vm.basedOn(2)).isEqualTo(1);
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
