package hardproof.server.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.ledger.Digest;
import hardproof.core.ledger.MerkleProofs;
import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Client;
import hardproof.server.activity.Activity;
import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** The ledger as the page and outsiders ask for it, and packs that somebody brings. */
class LedgerRestTest {
  @TempDir
  Path folder;

  private RunningServer server;
  private Client auditor;
  private Client administrator;

  @BeforeEach
  void start() throws IOException {
    server = new RunningServer(folder);
    server.with(Role.AUDITOR, Role.ADMINISTRATOR);
    auditor = server.as(Role.AUDITOR);
    administrator = server.as(Role.ADMINISTRATOR);
  }

  @AfterEach
  void stop() {
    server.close();
  }

  private JsonNode state() {
    return auditor.get("/api/ledger").json();
  }

  private JsonNode checked() {
    assertThat(auditor.post("/api/ledger/check", "{}").status()).isEqualTo(202);
    return Awaitility.await()
        .atMost(Duration.ofSeconds(60))
        .until(this::state, s -> !s.has("checking") && s.has("checked"));
  }

  @Test
  void itSaysHowItStandsAndGivesItsProofs() {
    JsonNode state = checked();
    assertThat(state.path("checked").path("found").asLong(-1)).isZero();
    JsonNode entry = auditor.get("/api/ledger/entries").json().path(0);
    long number = entry.path("number").asLong(-1);
    assertThat(number).isPositive();
    assertThat(auditor.get("/api/ledger/entries?before=1").json().size()).isEqualTo(1);
    JsonNode inclusion = auditor.get("/api/ledger/inclusion?number=" + number).json();
    JsonNode head = inclusion.path("head");
    assertThat(MerkleProofs.included(
            Digest.leaf(inclusion.path("entry").path("body").asString()),
            number,
            head.path("size").asLong(),
            path(inclusion),
            Digest.of(head.path("root").asString())))
        .isTrue();
    JsonNode consistency = auditor.get("/api/ledger/consistency?first=1").json();
    assertThat(MerkleProofs.consistent(
            1,
            Digest.of(consistency.path("firstRoot").asString()),
            consistency.path("head").path("size").asLong(),
            Digest.of(consistency.path("head").path("root").asString()),
            path(consistency)))
        .isTrue();
    assertThat(auditor.get("/api/ledger/inclusion?number=999999").detail())
        .contains("there is no 999999");
    assertThat(auditor.get("/api/ledger/consistency?first=0").detail())
        .contains("did not grow from one of 0");
    TreeHead given = TreeHead.read(auditor.get("/api/ledger/head").body());
    assertThat(given.verifies()).isTrue();
  }

  private static List<Digest> path(JsonNode proof) {
    List<Digest> path = new ArrayList<>();
    proof.path("path").forEach(d -> path.add(Digest.of(d.asString())));
    return path;
  }

  @Test
  void onlyAnAdministratorLetsAnotherKeyFollow() {
    assertThat(auditor.post("/api/ledger/keys", "{}").status()).isEqualTo(403);
    assertThat(administrator.post("/api/ledger/keys", "{\"reason\": \"lost\"}").detail())
        .startsWith("The key is there");
    JsonNode key = administrator.post("/api/ledger/keys", "{}").json();
    assertThat(key.path("event").asString()).isEqualTo("followed");
    assertThat(state().path("keys").size()).isEqualTo(2);
    assertThat(checked().path("checked").path("found").asLong(-1)).isZero();
  }

  private JsonNode done(RunningServer.Answer begun) {
    assertThat(begun.status()).as(begun.body()).isEqualTo(202);
    String task = "/api/pack-tasks/" + begun.json().path("id").asString();
    return Awaitility.await()
        .atMost(Duration.ofSeconds(60))
        .until(() -> auditor.get(task).json(), t -> !t.path("state").asString().equals("working"));
  }

  /** Said on every page, and no pack is issued. */
  @Test
  void aDifferenceIsSaidToWhoeverIsSignedInAndBlocksPacks() {
    server.estate.installation.part(Activity.class).record("ana", "looked", "share", "");
    var database = server.estate.installation.database();
    database.write(() -> {
      database.writes().sql("DROP TRIGGER activity_is_never_changed").update();
      return database.writes().sql("UPDATE activity SET what = 'slept'").update();
    });
    JsonNode failed = done(auditor.post("/api/packs", "{}"));
    assertThat(state().has("checking")).isFalse();
    assertThat(failed.path("state").asString()).isEqualTo("failed");
    assertThat(failed.path("problem").asString())
        .contains("The ledger differs from what was recorded")
        .contains("No pack is issued until it is cleared up");
    assertThat(auditor.get("/api/packs").json().size()).isZero();
    assertThat(auditor.get("/api/session").json().path("warnings").toString())
        .contains("The ledger differs");
    assertThat(server.client().get("/api/session").json().path("warnings").size())
        .isZero();
    assertThat(checked().path("checked").path("differences").toString()).contains("is 'slept' now");
  }

  @Test
  void aPackThatIsBroughtIsVerifiedAndNotKept() throws IOException {
    String head = auditor.get("/api/ledger/head").body();
    JsonNode pack = done(auditor.post("/api/packs", "{}")).path("pack");
    Path packs = server.estate.installation.folder().packs();
    byte[] bytes = Files.readAllBytes(packs.resolve(pack.path("name").asString() + ".zip"));
    JsonNode whole =
        done(auditor.multipart("/api/packs/verification", "pack", "given.zip", bytes, Map.of()));
    for (JsonNode check : whole.path("verification").path("checks")) {
      assertThat(check.path("passed").asBoolean()).as(check.toString()).isTrue();
    }
    JsonNode kept = done(auditor.twoFiles("/api/packs/verification", "head", head, "pack", bytes));
    assertThat(kept.path("verification").path("checks").toString()).contains("Kept head");
    assertThat(auditor
            .twoFiles("/api/packs/verification", "head", "{}", "pack", bytes)
            .detail())
        .isEqualTo(
            "head.json holds no head of a ledger as Evidence gives it out. Drop the file that"
                + " was downloaded there, or the pack alone.");
    bytes[bytes.length / 2] ^= 1;
    JsonNode changed =
        done(auditor.multipart("/api/packs/verification", "pack", "given.zip", bytes, Map.of()));
    assertThat(changed.path("verification").path("checks").toString()).contains("false");
    JsonNode none = done(auditor.multipart(
        "/api/packs/verification",
        "pack",
        "x.zip",
        head.getBytes(StandardCharsets.UTF_8),
        Map.of()));
    assertThat(none.path("verification").path("checks").path(0).path("sentence").asString())
        .contains("is not a readable zip");
    try (var files = Files.list(packs)) {
      assertThat(files).hasSize(1);
    }
  }

  @Test
  void onlyAnAdministratorEndsAKeyAndSaysWhy() {
    assertThat(server
            .as(Role.AUDITOR)
            .post("/api/ledger/keys/end", "{\"reason\":\"x\"}")
            .status())
        .isEqualTo(403);
    for (String wrong :
        List.of("{}", "{\"reason\":\" \"}", "{\"reason\":\"" + "x".repeat(301) + "\"}")) {
      assertThat(
              server.as(Role.ADMINISTRATOR).post("/api/ledger/keys/end", wrong).status())
          .isEqualTo(400);
    }
  }
}
