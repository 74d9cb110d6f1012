package hardproof.server.findings;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Client;
import hardproof.server.people.Role;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.Socket;
import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Screens narrowed by a selector. */
class SelectionTest {
  private static final String DATABASES =
      "selector=" + encoded("{\"all\":[{\"field\":\"kind\",\"in\":[\"database\"]}]}");
  private static final String NOTHING =
      "selector=" + encoded("{\"all\":[{\"field\":\"site\",\"in\":[\"nowhere\"]}]}");

  @TempDir
  Path folder;

  private RunningServer server;
  private Client auditor;

  private static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8);
  }

  @BeforeEach
  void start() throws IOException {
    server = new RunningServer(folder).with(Role.AUDITOR);
    auditor = server.as(Role.AUDITOR);
    server.estate.take("workloads.csv", "key,name,tier\nboth,Both,1\nfiles,Files,2\nw,Wages,3\n");
    server.estate.take(
        "resources.csv",
        "key,name,kind,workload\nb1,B1,database,both\nb2,B2,file-share,both\nf1,F1,file-share,files\n");
  }

  @AfterEach
  void stop() {
    server.close();
  }

  private static List<String> texts(JsonNode rows, String field) {
    return rows.valueStream().map(r -> r.path(field).asString()).distinct().toList();
  }

  @Test
  void findingsAreThoseOfTheChosenResources() {
    JsonNode page = auditor.get("/api/findings?limit=500&" + DATABASES).json();
    assertThat(texts(page.path("rows"), "subject")).contains("b1").doesNotContain("b2", "f1");
    assertThat(texts(page.path("rows"), "type")).containsExactly("resource");
    assertThat(page.path("total").asInt()).isLessThan(page.path("open").asInt());
    assertThat(auditor.get("/api/findings?" + NOTHING).json().path("total").asInt())
        .isZero();
  }

  /** A workload is judged as a whole, so it is there when any of its members is chosen. */
  @Test
  void theBoardHasTheWorkloadsWithAChosenResource() {
    JsonNode board = auditor.get("/api/board?" + DATABASES).json();
    assertThat(texts(board.path("workloads"), "key")).contains("both").doesNotContain("files");
    assertThat(board
            .path("workloads")
            .valueStream()
            .filter(w -> w.path("key").asString().equals("both"))
            .map(w -> w.path("members").asInt()))
        .containsExactly(2);
    int counted = board.path("counts").valueStream().mapToInt(JsonNode::asInt).sum();
    assertThat(counted).isEqualTo(board.path("workloads").size());
    assertThat(auditor.get("/api/board?" + NOTHING).json().path("workloads").size())
        .isZero();
  }

  /** Browsers leave brackets in a query as they are; such a link must open. Java's own client refuses to. */
  @Test
  void aLinkWithASelectorAsABrowserWritesItOpens() throws IOException {
    try (Socket socket = new Socket("127.0.0.1", auditor.port())) {
      socket
          .getOutputStream()
          .write(("GET /findings?which={%22all%22:[{%22field%22:%22kind%22}]} HTTP/1.1\r\n"
                  + "Host: 127.0.0.1\r\nConnection: close\r\n\r\n")
              .getBytes(StandardCharsets.US_ASCII));
      String answer = new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(answer).startsWith("HTTP/1.1 200").contains("<div id=\"app\">");
    }
  }

  /** The same Board, whichever way it is sent. */
  @Test
  void theBoardIsTheSameCompressed() throws IOException {
    JsonNode plain = auditor.get("/api/board").json();
    HttpResponse<byte[]> sent = auditor.bytes("/api/board", "gzip, br");
    assertThat(sent.headers().firstValue("Content-Encoding")).hasValue("gzip");
    assertThat(sent.headers().firstValue("Content-Type")).hasValue("application/json");
    String text;
    try (InputStream in = new GZIPInputStream(new ByteArrayInputStream(sent.body()))) {
      text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
    assertThat(JsonMapper.builder().build().readTree(text)).isEqualTo(plain);
  }

  @Test
  void insightsAreAboutTheChosenResources() {
    server.estate.clock.forward(Duration.ofHours(2));
    String from = "/api/insights?from=2026-11-24T04:00:00Z";
    JsonNode all = auditor.get(from).json();
    JsonNode some = auditor.get(from + "&" + NOTHING).json();
    assertThat(all.path("attainment").size()).isPositive();
    assertThat(all.has("scope")).isFalse();
    assertThat(all.path("attainment").get(0).path("course").size()).isEqualTo(12);
    assertThat(some.path("attainment").size()).isZero();
    assertThat(some.path("scope").asString()).contains("nowhere");
  }

  @Test
  void aSelectorThatCannotBeReadIsRefusedWithWhatIsWrong() {
    for (String path : List.of("findings?", "board?", "insights?from=2026-11-24T09:00:00Z&")) {
      var answer = auditor.get("/api/" + path + "selector=" + encoded("{\"every\":[]}"));
      assertThat(answer.status()).as(path).isEqualTo(400);
      assertThat(answer.detail()).contains("selector has a part 'every'");
    }
  }
}
