package hardproof.server.lookup;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.WithServer;
import org.junit.jupiter.api.Test;

class LookupRestTest extends WithServer {
  @Test
  void whatIsFoundSaysWhereItIs() {
    var hits = client.get("/api/lookup?q=share").json();
    assertThat(hits.get(0).path("kind").asString()).isEqualTo("resource");
    assertThat(hits.get(0).path("link").asString()).isEqualTo("/board?w=w");
    assertThat(hits.valueStream().map(h -> h.path("kind").asString())).contains("point", "finding");
  }

  @Test
  void whatNobodyIsCalledIsNotFoundAndWhatIsTooLongIsRefused() {
    assertThat(client.get("/api/lookup?q=nowhere").json().size()).isZero();
    assertThat(client.get("/api/lookup?q=%20").json().size()).isZero();
    assertThat(client.get("/api/lookup?q=" + "x".repeat(201)).status()).isEqualTo(400);
    assertThat(client.get("/api/lookup").status()).isEqualTo(400);
    assertThat(client.get("/api/lookup?q=share&asAt=2099-01-01T00:00:00Z").status())
        .isEqualTo(400);
  }
}
