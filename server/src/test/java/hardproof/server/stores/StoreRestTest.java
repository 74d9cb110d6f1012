package hardproof.server.stores;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer.Answer;
import hardproof.server.RunningServer.Client;
import hardproof.server.WithServer;
import hardproof.server.people.Role;
import hardproof.standins.stores.ObjectShelf;
import hardproof.standins.stores.ObjectStandIn;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.stream.Stream;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import tools.jackson.databind.JsonNode;

class StoreRestTest extends WithServer {
  private static final String SECRET = "it-is-never-told-again";

  private static String draft(String endpoint, String key, String secret) {
    return "{\"kind\":\"object-store\",\"endpoint\":\"" + endpoint
        + "\",\"region\":\"nordal-1\",\"bucket\":\"near\",\"keyId\":\"" + key + "\""
        + (secret == null ? "" : ",\"secret\":{\"secret\":\"" + secret + "\"}") + "}";
  }

  @Test
  void aStoreIsTriedConnectedListedAndForgottenAndItsSecretIsNeverTold() throws IOException {
    Client administrator = server.as(Role.ADMINISTRATOR);
    ObjectShelf shelf = ObjectShelf.empty();
    shelf.put("a/one.tar", new byte[7], Instant.parse("2026-11-20T00:00:00Z"));
    try (ObjectStandIn standIn = ObjectStandIn.start(
        new ObjectStandIn.Settings("near", shelf, "key", SECRET, "nordal-1", true, true),
        0,
        Clock.systemUTC())) {
      String at = standIn.endpoint().toString();
      JsonNode wrong = administrator
          .post("/api/connection-trials?store=near", draft(at, "key", "guessed"))
          .json();
      assertThat(wrong.path("away").asString()).endsWith("the secret does not belong to the key");
      JsonNode right = administrator
          .post("/api/connection-trials?store=near", draft(at, "key", SECRET))
          .json();
      assertThat(right.has("away")).isFalse();
      assertThat(right.path("places").get(0).asString()).isEqualTo("a/one.tar");
      assertThat(store("near").path("reached").asString()).isEqualTo("folder");

      Answer kept =
          administrator.put("/api/store-connections?store=near", draft(at, "key", SECRET));
      assertThat(kept.status()).as(kept.body()).isEqualTo(200);
      assertThat(kept.body()).doesNotContain(SECRET);
      // The same place may be changed without the secret, another may not.
      assertThat(administrator
              .put("/api/store-connections?store=near", draft(at, "key", null))
              .status())
          .isEqualTo(200);
      Answer elsewhere = administrator.put(
          "/api/store-connections?store=near", draft("http://127.0.0.1:9", "key", null));
      assertThat(elsewhere.status()).isEqualTo(400);
      assertThat(elsewhere.detail()).contains("give what opens it anew");

      JsonNode shown = store("near");
      assertThat(shown.path("reached").asString()).isEqualTo("object-store");
      assertThat(shown.path("connection").path("keyId").asString()).isEqualTo("key");
      JsonNode begun =
          administrator.post("/api/censuses", "{\"store\":\"near\"}").json();
      Awaitility.await()
          .atMost(java.time.Duration.ofSeconds(90))
          .until(() -> !store("near").path("census").path("state").asString().equals("running"));
      assertThat(store("near").path("census").path("id").asInt())
          .isEqualTo(begun.path("id").asInt());
      assertThat(client.get("/api/censuses?store=near").json()).isNotEmpty();
      assertThat(client.get("/api/store-differences?store=near").status()).isEqualTo(200);
      assertThat(
              administrator.delete("/api/censuses/" + begun.path("id").asInt()).status())
          .isEqualTo(204);
    }
    assertNowhere(SECRET);
    assertThat(administrator.delete("/api/store-connections?store=near").status())
        .isEqualTo(204);
    assertThat(administrator.delete("/api/store-connections?store=near").status())
        .isEqualTo(404);
    assertThat(store("near").path("reached").asString()).isEqualTo("folder");
  }

  private JsonNode store(String key) {
    for (JsonNode store : client.get("/api/stores").json()) {
      if (store.path("store").asString().equals(key)) {
        return store;
      }
    }
    throw new AssertionError("no store " + key);
  }

  /** Neither in what people may read nor in any file of the installation. */
  private void assertNowhere(String secret) throws IOException {
    for (String path : new String[] {"/api/stores", "/api/activity", "/api/ledger/entries"}) {
      assertThat(server.as(Role.ADMINISTRATOR).get(path).body()).as(path).doesNotContain(secret);
    }
    try (Stream<Path> files = Files.walk(server.estate.folder)) {
      for (Path file : files.filter(Files::isRegularFile).toList()) {
        assertThat(
                new String(Files.readAllBytes(file), java.nio.charset.StandardCharsets.ISO_8859_1))
            .as(file.toString())
            .doesNotContain(secret);
      }
    }
  }

  @ParameterizedTest
  @EnumSource(value = Role.class, names = "ADMINISTRATOR", mode = EnumSource.Mode.EXCLUDE)
  void onlyAnAdministratorSaysHowAStoreIsReached(Role role) {
    Client other = role == Role.AUDITOR ? client : server.with(role).as(role);
    String draft = draft("http://127.0.0.1:9", "key", "x");
    assertThat(other.put("/api/store-connections?store=near", draft).status()).isEqualTo(403);
    assertThat(other.post("/api/connection-trials?store=near", draft).status()).isEqualTo(403);
    assertThat(other.delete("/api/store-connections?store=near").status()).isEqualTo(403);
    assertThat(
            other.post("/api/host-keys", "{\"host\":\"127.0.0.1\",\"port\":9}").status())
        .isEqualTo(403);
    assertThat(other.get("/api/stores").status()).isEqualTo(200);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{'kind':'object-store','bucket':'b','keyId':'k'}|There is no endpoint",
        "{'kind':'object-store','endpoint':'host','bucket':'b','keyId':'k'}|is no endpoint",
        "{'kind':'object-store','endpoint':'http://host','keyId':'k'}|There is no bucket",
        "{'kind':'object-store','endpoint':'http://host','bucket':'b'}|There is no key",
        "{'kind':'object-store','endpoint':'http://host','bucket':'b','keyId':'k'}|nothing that opens the store",
        "{'kind':'sftp','host':'h','user':'u','folder':'x','hostKeys':'k','secret':{'password':'p'}}|no folder from the root",
        "{'kind':'sftp','host':'h','user':'u','folder':'/x','secret':{'password':'p'}}|pretend",
        "{'kind':'sftp','host':'h','user':'u','folder':'/x','hostKeys':'k','secret':{'privateKey':'p'}}|private key",
        "{'kind':'sftp','host':'h','user':'u','folder':'/x','hostKeys':'k','bytesPerSecond':5,'secret':{'password':'p'}}|1,000 bytes"
      })
  void whatIsNoConnectionIsRefusedWithWhatIsMissing(String draft, String why) {
    Answer answer = server
        .as(Role.ADMINISTRATOR)
        .put("/api/store-connections?store=near", draft.replace('\'', '"'));
    assertThat(answer.status()).as(answer.body()).isEqualTo(400);
    assertThat(answer.detail()).contains(why);
    assertThat(store("near").path("reached").asString()).isEqualTo("folder");
  }

  @Test
  void whatIsNotKnownIsSaid() {
    Client administrator = server.as(Role.ADMINISTRATOR);
    assertThat(administrator
            .put("/api/store-connections?store=nowhere", draft("http://h", "k", "s"))
            .detail())
        .isEqualTo("There is no store 'nowhere'.");
    assertThat(administrator.post("/api/censuses", "{\"store\":\"nowhere\"}").detail())
        .isEqualTo("There is no store 'nowhere'.");
    assertThat(administrator.delete("/api/censuses/4711").detail())
        .isEqualTo("No census 4711 is known.");
    assertThat(administrator
            .post("/api/host-keys", "{\"host\":\"127.0.0.1\",\"port\":9}")
            .detail())
        .contains("shows no key");
    assertThat(administrator.post("/api/host-keys", "{\"host\":\"a b\"}").detail())
        .contains("is no host");
  }
}
