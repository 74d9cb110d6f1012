package hardproof.server.survival;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer.Client;
import hardproof.server.WithServer;
import hardproof.server.people.Role;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

class KeptLossRestTest extends WithServer {
  private static final String FIRE = "{\"name\":\"%s\",\"loss\":{\"store\":[\"%s\"],"
      + "\"intruder\":true,\"feed\":[],\"taintedAfter\":\"2026-11-20T00:00:00Z\"}}";

  private String store() {
    return client.get("/api/survival").json().path("plates").get(0).path("key").asString();
  }

  @Test
  void aLossIsKeptAskedAgainReplacedAndForgotten() {
    Client administrator = server.as(Role.ADMINISTRATOR);
    assertThat(administrator
            .put("/api/kept-losses", FIRE.formatted(" Fire ", store()))
            .status())
        .isEqualTo(204);
    JsonNode kept = client.get("/api/kept-losses").json();
    assertThat(kept).hasSize(1);
    assertThat(kept.get(0).path("name").asString()).isEqualTo("Fire");
    assertThat(kept.get(0).path("words").asString())
        .endsWith("all that an administrator could delete, all data after 2026-11-20T00:00:00Z");
    JsonNode loss = kept.get(0).path("loss");
    assertThat(loss.path("store").get(0).asString()).isEqualTo(store());
    assertThat(loss.path("intruder").asBoolean()).isTrue();
    assertThat(loss.path("taintedAfter").asString()).isEqualTo("2026-11-20T00:00:00Z");

    String other = "{\"name\":\"Fire\",\"loss\":{\"intruder\":true}}";
    assertThat(administrator.put("/api/kept-losses", other).status()).isEqualTo(204);
    kept = client.get("/api/kept-losses").json();
    assertThat(kept).hasSize(1);
    assertThat(kept.get(0).path("words").asString())
        .isEqualTo("all that an administrator could delete");

    assertThat(client.delete("/api/kept-losses?name=Fire").status()).isEqualTo(403);
    assertThat(administrator.delete("/api/kept-losses?name=Fire").status()).isEqualTo(204);
    assertThat(client.get("/api/kept-losses").json()).isEmpty();
    var gone = administrator.delete("/api/kept-losses?name=Fire");
    assertThat(gone.status()).isEqualTo(404);
    assertThat(gone.detail()).isEqualTo("No loss is kept as 'Fire'.");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "{\"name\":\"None\",\"loss\":{}}",
        "{\"name\":\" \",\"loss\":{\"intruder\":true}}",
        "{\"name\":\"None\"}",
        "{\"name\":\"None\",\"loss\":{\"store\":[\"nowhere\"]}}",
        "{\"name\":\"None\",\"loss\":{\"holder\":[\"nobody\"]}}",
        "{\"name\":\"None\",\"loss\":{\"feed\":[\"none\"]}}",
        "{\"name\":\"None\",\"loss\":{\"taintedAfter\":\"soon\"}}",
        "{\"name\":\"This name is a good deal longer than the sixty letters that it may have\","
            + "\"loss\":{\"intruder\":true}}"
      })
  void whatIsNoLossOrHasNoNameIsNotKept(String body) {
    var answer = server.as(Role.ADMINISTRATOR).put("/api/kept-losses", body);
    assertThat(answer.status()).as(answer.body()).isEqualTo(400);
    assertThat(client.get("/api/kept-losses").body()).doesNotContain("None");
  }

  @Test
  void whoOnlyLooksKeepsNothing() {
    assertThat(client.put("/api/kept-losses", FIRE.formatted("Fire", store())).status())
        .isEqualTo(403);
  }
}
