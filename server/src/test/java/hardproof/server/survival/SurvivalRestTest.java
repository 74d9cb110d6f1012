package hardproof.server.survival;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.WithServer;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

class SurvivalRestTest extends WithServer {
  private JsonNode after(String query) {
    var answer = client.get("/api/survival" + query);
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  private JsonNode remedies(String query) {
    var answer = client.get("/api/survival/remedies" + query);
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  private static List<String> fates(JsonNode view) {
    List<String> fates = new ArrayList<>();
    view.path("workloads").forEach(w -> fates.add(w.path("fate").asString()));
    return fates;
  }

  @Test
  void everyWorkloadHasAFateAndAllStoresTogetherLeaveNothing() {
    JsonNode none = after("");
    assertThat(none.path("loss").asString()).isEqualTo("production alone");
    assertThat(none.path("proof").asString())
        .isEqualTo("computed from facts; none was rehearsed from what would be left");
    assertThat(fates(none)).isNotEmpty().doesNotContain("lost");
    StringBuilder all = new StringBuilder("?intruder=false");
    none.path("plates").forEach(p -> all.append("&store=").append(p.path("key").asString()));
    JsonNode lost = after(all.toString());
    assertThat(lost.path("plates"))
        .allSatisfy(p -> assertThat(p.path("lost").asBoolean()).isTrue());
    assertThat(fates(lost)).isSubsetOf("lost", "had-nothing").contains("lost");
    assertThat(lost.path("sentence").asString()).startsWith("0 of ");
    assertThat(lost.path("bytes").asLong()).isZero();
  }

  /** What the ranking says of a loss is what the loss comes to, beyond what is so without it. */
  @Test
  void theRankingSaysWhatEachLossComesTo() {
    long before = fates(after("")).stream().filter("lost"::equals).count();
    JsonNode ranking = client.get("/api/survival/ranking").json();
    assertThat(ranking).isNotEmpty();
    for (JsonNode rank : ranking) {
      StringBuilder query =
          new StringBuilder("?intruder=" + rank.path("loss").path("intruder").asBoolean());
      for (String part : List.of("site", "region", "store", "domain", "holder")) {
        rank.path("loss")
            .path(part)
            .forEach(n -> query.append("&" + part + "=").append(n.asString().replace(" ", "%20")));
      }
      long lost = fates(after(query.toString())).stream().filter("lost"::equals).count();
      assertThat(lost - before).as(rank.toString()).isEqualTo(rank.path("lost").asLong());
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "?site=Atlantis",
        "?region=none",
        "?store=x",
        "?domain=y",
        "?holder=nobody",
        "?feed=none",
        "?taintedAfter=yesterday",
        "?taintedAfter=%2B1000000000-01-01T00:00:00Z",
        "?taintedAfter=1969-12-31T23:59:59Z",
        "?intruder=perhaps",
        "?atOnce=0",
        "?atOnce=1001",
        "?asAt=soon"
      })
  void whatIsNoLossIsRefused(String query) {
    var answer = client.get("/api/survival" + query);
    assertThat(answer.status()).as(answer.body()).isEqualTo(400);
  }

  /** A feed that told of every point leaves nothing; what would help can't bring back what is not trusted. */
  @Test
  void whatAFeedToldOfIsNotCounted() {
    JsonNode feeds = after("").path("feeds");
    assertThat(feeds).isNotEmpty();
    StringBuilder all = new StringBuilder("?intruder=false");
    feeds.forEach(f -> all.append("&feed=").append(f.asString().replace(" ", "%20")));
    JsonNode lost = after(all.toString());
    assertThat(fates(lost)).isSubsetOf("lost", "had-nothing").contains("lost");
    assertThat(remedies(all.toString())).isEmpty();
  }

  /** Where all copies lie on one store, another that is left would have them survive. */
  @Test
  void whatWouldHelpIsSaid() throws IOException {
    server.estate.take(
        "stores.csv", "key,name,site,medium,online,path\nfar,FAR,B,disk,yes,/nowhere\n");
    JsonNode remedies = remedies("?store=near");
    assertThat(remedies).hasSize(1);
    assertThat(remedies.get(0).path("words").asString())
        .startsWith("one more copy of 2 resources on FAR, ")
        .endsWith(": 1 more survives, and none is lost");
    assertThat(remedies.get(0).path("copied")).hasSize(2);
    assertThat(remedies("?store=far")).isEmpty();
    assertThat(remedies("?store=near&store=far")).isEmpty();
    assertThat(client.get("/api/survival/remedies?store=x").status()).isEqualTo(400);
  }

  @Test
  void taintedDataIsNotCounted() {
    JsonNode tainted = after("?taintedAfter=2001-01-01T00:00:00Z");
    assertThat(fates(tainted)).isSubsetOf("lost", "had-nothing");
  }
}
