package hardproof.server.fetching;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer;
import hardproof.server.people.Role;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Saying what comes by itself, and delivering with a token alone, through the REST interface. */
class DeliveryRestTest {
  private static final String DRAFT = """
      {"address":"%s","way":"token","secret":%s,"every":"6h"}""";

  @TempDir
  static Path folder;

  private static RunningServer server;
  private static RunningServer.Client administrator;
  private static RunningServer.Client operator;

  @BeforeAll
  static void start() throws IOException {
    server = new RunningServer(folder).with(Role.ADMINISTRATOR, Role.OPERATOR, Role.AUDITOR);
    administrator = server.as(Role.ADMINISTRATOR);
    operator = server.as(Role.OPERATOR);
  }

  @AfterAll
  static void stop() {
    server.close();
  }

  private static HttpResponse<String> deliver(String feed, String query, String token, String body)
      throws IOException, InterruptedException {
    HttpRequest.Builder request = HttpRequest.newBuilder(
            URI.create("http://localhost:" + operator.port() + "/api/deliveries/" + feed + query))
        .POST(HttpRequest.BodyPublishers.ofString(body));
    if (token != null) {
      request.header("Authorization", token);
    }
    return HttpClient.newHttpClient().send(request.build(), HttpResponse.BodyHandlers.ofString());
  }

  @Test
  void whoeverHasTheTokenDelivers() throws IOException, InterruptedException {
    assertThat(operator.post("/api/delivery-tokens/attic", "").status()).isEqualTo(403);
    var made = administrator.post("/api/delivery-tokens/attic", "");
    assertThat(made.status()).isEqualTo(201);
    assertThat(operator
                .get("/api/feed-fetches")
                .json()
                .path("tokens")
                .path(0)
                .path("usedAt")
                .isNull()
            || operator
                .get("/api/feed-fetches")
                .json()
                .path("tokens")
                .path(0)
                .path("usedAt")
                .isMissingNode())
        .as("nobody has used it")
        .isTrue();
    String token = "Bearer " + made.json().path("token").asString();
    String rows = "key,name,medium\nattic,Attic,tape\n";
    HttpResponse<String> taken = deliver("attic", "?file=stores.csv", token, rows);
    assertThat(taken.statusCode()).isEqualTo(200);
    assertThat(taken.body()).contains("\"taken\":true").contains("1 row new or changed");
    assertThat(deliver("attic", "?file=stores.csv", token, rows + "b,B,paper\n").statusCode())
        .as("nothing of a file with a rejected row")
        .isEqualTo(422);
    assertThat(deliver("attic", "?file=report.csv", token, "a,b\n1,2\n").body())
        .as("no recipe reads it")
        .contains("is no file of a bundle");
    for (String wrong : new String[] {null, "Bearer ", "Bearer x", token + "x", "Basic " + token}) {
      HttpResponse<String> refused = deliver("attic", "?file=stores.csv", wrong, rows);
      assertThat(refused.statusCode()).as("with " + wrong).isEqualTo(401);
      assertThat(refused.body()).contains("This token opens no such feed.");
    }
    assertThat(deliver("other", "?file=stores.csv", token, rows).statusCode())
        .as("a token opens its own feed alone")
        .isEqualTo(401);
    for (String name : new String[] {"..%2Fx.csv", ".hidden.csv", "a%5Cb.csv"}) {
      assertThat(deliver("attic", "?file=" + name, token, rows).body())
          .as(name)
          .contains("is no name of a file");
    }
    assertThat(operator.get("/api/feed-fetches").body())
        .contains("\"madeBy\":\"administrator\"")
        .contains("\"usedAt\":")
        .doesNotContain(made.json().path("token").asString());
    String newer = administrator
        .post("/api/delivery-tokens/attic", "")
        .json()
        .path("token")
        .asString();
    assertThat(deliver("attic", "?file=stores.csv", token, rows).statusCode())
        .as("the one before has ended")
        .isEqualTo(401);
    assertThat(administrator.delete("/api/delivery-tokens/attic").status()).isEqualTo(204);
    assertThat(deliver("attic", "?file=stores.csv", "Bearer " + newer, rows).statusCode())
        .isEqualTo(401);
    assertThat(administrator.delete("/api/delivery-tokens/attic").detail())
        .isEqualTo("Feed 'attic' has no token.");
  }

  @Test
  void administratorsSayWhatIsFetched() {
    String address = "https://reports.example/out/jobs.csv";
    assertThat(operator
            .put("/api/feed-fetches/nightly", DRAFT.formatted(address, "\"t0ken\""))
            .status())
        .isEqualTo(403);
    assertThat(administrator
            .put("/api/feed-fetches/nightly", DRAFT.formatted(address, "\"t0ken\""))
            .detail())
        .contains("eports.example may not be asked from here");
    assertThat(administrator
            .put("/api/outside-hosts", "{\"hosts\":[\"reports.example\",\"other.example\"]}")
            .status())
        .isLessThan(300);
    assertThat(administrator
            .put("/api/feed-fetches/nightly", DRAFT.formatted(address, "null"))
            .detail())
        .contains("ive the token or password");
    assertThat(administrator
            .put("/api/feed-fetches/nightly", DRAFT.formatted(address, "\"t0ken\""))
            .status())
        .isEqualTo(204);
    assertThat(administrator
            .put("/api/feed-fetches/nightly", DRAFT.formatted(address + "?a", "null"))
            .status())
        .as("the same host: the token is kept")
        .isEqualTo(204);
    assertThat(administrator
            .put("/api/feed-fetches/nightly", DRAFT.formatted("https://other.example/x", "null"))
            .detail())
        .as("it is not sent to another")
        .contains("for another address or user it is asked anew");
    assertThat(administrator
            .put(
                "/api/feed-fetches/nightly",
                "{\"address\":\"" + address
                    + "\",\"way\":\"nothing\",\"every\":\"6h\",\"recipe\":\"none\"}")
            .detail())
        .contains("o recipe 'none' is known");
    assertThat(administrator
            .put("/api/feed-fetches/nightly", DRAFT.formatted("http://reports.example/x", "\"t\""))
            .detail())
        .contains("write https://host/path");
    assertThat(server.as(Role.AUDITOR).get("/api/feed-fetches").body())
        .contains("reports.example")
        .doesNotContain("t0ken");
    assertThat(operator.delete("/api/feed-fetches/nightly").status()).isEqualTo(403);
    assertThat(administrator.delete("/api/feed-fetches/nightly").status()).isEqualTo(204);
    assertThat(operator.post("/api/feed-fetches/nightly/tries", "").detail())
        .isEqualTo("Feed 'nightly' is not fetched.");
  }
}
