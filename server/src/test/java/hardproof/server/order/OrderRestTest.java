package hardproof.server.order;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.WithServer;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

class OrderRestTest extends WithServer {
  private String anyWorkload() {
    for (JsonNode w : client.get("/api/board").json().path("workloads")) {
      if (!w.path("unassigned").asBoolean()) {
        return w.path("key").asString();
      }
    }
    throw new AssertionError("the estate has no workload");
  }

  @Test
  void theOrderOfAWorkloadIsAnsweredWithItsSentence() {
    JsonNode order = client.get("/api/workloads/" + anyWorkload() + "/order").json();
    assertThat(order.path("atOnce").asInt()).isEqualTo(2);
    assertThat(order.path("sentence").asString()).isNotEmpty();
    assertThat(order.path("bars")).isNotEmpty();
    for (JsonNode bar : order.path("bars")) {
      assertThat(bar.has("beginMs") || bar.has("never")).as(bar.toString()).isTrue();
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"0", "-1", "1001", "x"})
  void howManyAtOnceIsHeldToWhatCanBe(String atOnce) {
    var answer = client.get("/api/workloads/" + anyWorkload() + "/order?atOnce=" + atOnce);
    assertThat(answer.status()).as(answer.body()).isEqualTo(400);
  }

  @Test
  void aWorkloadThatNobodyKnowsIsSaidToBeNone() {
    var answer = client.get("/api/workloads/none/order");
    assertThat(answer.status()).isEqualTo(404);
    assertThat(answer.body()).contains("No workload 'none' is known");
    String then = "/api/workloads/" + anyWorkload() + "/order?asAt=2001-01-01T00:00:00Z";
    assertThat(client.get(then).status()).isIn(400, 404);
  }
}
