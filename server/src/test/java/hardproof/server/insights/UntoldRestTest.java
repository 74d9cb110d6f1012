package hardproof.server.insights;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.WithServer;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class UntoldRestTest extends WithServer {
  /** The one feed tells of all kinds; nothing of it is known to be encrypted, so nothing can be judged by that. */
  @Test
  void aFeedSaysWhatItNeverTells() {
    JsonNode untold = client.get("/api/feeds/untold").json();
    assertThat(untold).hasSize(1);
    JsonNode feed = untold.get(0);
    assertThat(feed.path("feed").asString()).isEqualTo("test");
    assertThat(feed.path("told").toString()).isEqualTo("[\"resources\",\"points\",\"copies\"]");
    JsonNode points = feed.path("lacks").get(1);
    assertThat(points.path("kind").asString()).isEqualTo("points");
    assertThat(points.path("fields").toString())
        .contains("\"encrypted\"")
        .doesNotContain("\"size\"");
    assertThat(feed.path("unjudged"))
        .isNotEmpty()
        .allSatisfy(u -> assertThat(u.path("title").asString()).isNotBlank());
    assertThat(client.get("/api/feeds/untold?asAt=soon").status()).isEqualTo(400);
  }
}
