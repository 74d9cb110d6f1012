package hardproof.server.alerts;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.estate.Selector;
import hardproof.server.RunningServer.Client;
import hardproof.server.WithServer;
import hardproof.server.people.Role;
import java.time.Duration;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class AlertRestTest extends WithServer {
  private Client administrator() {
    return server.as(Role.ADMINISTRATOR);
  }

  @Test
  void oneWatchShipsAndItIsOnTheBellOfEverybody() {
    var watches = administrator().get("/api/watches").json();
    assertThat(watches.get(0).path("watch").path("how").asString()).isEqualTo("bell");
    assertThat(watches.get(0).path("watch").path("recipient").asString()).isEqualTo("everybody");
    assertThat(server.as(Role.AUDITOR).get("/api/alerts").json().path("bell").isInt())
        .isTrue();
    assertThat(administrator().get("/api/alert-kinds").json().size())
        .isEqualTo(hardproof.core.alerts.AlertKind.values().length);
  }

  @Test
  void aWatchIsAddedChangedAndRemoved() {
    var added = administrator().post("/api/watches", """
        {"name":"Night","how":"mail","recipient":"owner","afterMinutes":5,"active":true,"kinds":["drill-failed"],
         "quietFrom":"22:00","quietUntil":"06:00","zone":"Europe/Oslo"}
        """);
    assertThat(added.status()).as(added.body()).isEqualTo(201);
    long id = added.json().path("id").asLong();
    var changed = administrator().put("/api/watches/" + id, """
        {"name":"Night","how":"mail","recipient":"ops@example.org","afterMinutes":0,"active":false}
        """);
    assertThat(changed.json().path("watch").path("active").asBoolean()).isFalse();
    assertThat(administrator().delete("/api/watches/" + id).status()).isEqualTo(204);
    assertThat(administrator().delete("/api/watches/" + id).status()).isEqualTo(404);
  }

  @Test
  void onePersonIsNamedByTheNameTheySignInWith() {
    String name = administrator().get("/api/people").json().get(0).path("name").asString();
    var added = administrator().post("/api/watches", """
        {"name":"Mine","how":"bell","recipient":"@%s","afterMinutes":0,"active":true}
        """.formatted(name));
    assertThat(added.status()).as(added.body()).isEqualTo(201);
    long id = added.json().path("id").asLong();
    assertThat(administrator().delete("/api/watches/" + id).status()).isEqualTo(204);
    Watch watch = new Watch(
        1,
        "Mine",
        Set.of(),
        Selector.EVERYTHING,
        Watch.How.BELL,
        Watch.person("ana"),
        Duration.ZERO,
        null,
        null,
        true);
    assertThat(watch.ringsFor("ana", "operator")).isTrue();
    assertThat(watch.ringsFor("ben", "operator")).isFalse();
    // Somebody may be called as a role is.
    assertThat(watch.ringsFor("bo", "ana")).isFalse();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "{}",
        "{\"name\":\"x\",\"how\":\"mail\",\"recipient\":\"nobody\",\"afterMinutes\":0,\"active\":true}",
        "{\"name\":\"x\",\"how\":\"mail\",\"recipient\":\"a@b.example, c@d.example\",\"afterMinutes\":0,\"active\":true}",
        "{\"name\":\"x\",\"how\":\"bell\",\"recipient\":\"king\",\"afterMinutes\":0,\"active\":true}",
        "{\"name\":\"x\",\"how\":\"bell\",\"recipient\":\"@nobody\",\"afterMinutes\":0,\"active\":true}",
        "{\"name\":\"x\",\"how\":\"webhook\",\"recipient\":\"ftp://a\",\"afterMinutes\":0,\"active\":true}",
        "{\"name\":\"x\",\"how\":\"webhook\",\"recipient\":\"https://not-allowed.example/x\",\"afterMinutes\":0,\"active\":true}",
        "{\"name\":\"x\",\"how\":\"pigeon\",\"recipient\":\"a\",\"afterMinutes\":0,\"active\":true}",
        "{\"name\":\"x\",\"how\":\"mail\",\"recipient\":\"owner\",\"afterMinutes\":-1,\"active\":true}",
        "{\"name\":\"x\",\"how\":\"mail\",\"recipient\":\"owner\",\"afterMinutes\":0,\"repeatMinutes\":4,\"active\":true}",
        "{\"name\":\"x\",\"how\":\"mail\",\"recipient\":\"owner\",\"afterMinutes\":0,\"quietFrom\":\"22:00\",\"active\":true}",
        "{\"name\":\"x\",\"how\":\"mail\",\"recipient\":\"owner\",\"afterMinutes\":0,\"quietFrom\":\"22:00\",\"quietUntil\":\"06:00\",\"zone\":\"Mars\",\"active\":true}",
        "{\"name\":\"a\\u202Eb\",\"how\":\"mail\",\"recipient\":\"owner\",\"afterMinutes\":0,\"active\":true}"
      })
  void whatCantBeIsRefusedAndNothingIsAdded(String draft) {
    int before = administrator().get("/api/watches").json().size();
    var answer = administrator().post("/api/watches", draft);
    assertThat(answer.status()).as(answer.body()).isEqualTo(400);
    assertThat(administrator().get("/api/watches").json().size()).isEqualTo(before);
  }

  @Test
  void onlyAnAdministratorSaysWhoIsTold() {
    Client auditor = server.as(Role.AUDITOR);
    assertThat(auditor.get("/api/watches").status()).isEqualTo(200);
    assertThat(auditor.post("/api/watches", "{}").status()).isEqualTo(403);
    assertThat(auditor.delete("/api/watches/1").status()).isEqualTo(403);
    assertThat(auditor.post("/api/alerts/1/acknowledgement", "{\"note\":\"x\"}").status())
        .isEqualTo(403);
  }

  @Test
  void whatIsNotThereIsSaidToBe() {
    assertThat(administrator().get("/api/alerts/4711/events").status()).isEqualTo(404);
    assertThat(administrator()
            .post("/api/alerts/4711/acknowledgement", "{\"note\":\"x\"}")
            .status())
        .isEqualTo(404);
    assertThat(administrator().get("/api/messages").json().size()).isZero();
  }
}
