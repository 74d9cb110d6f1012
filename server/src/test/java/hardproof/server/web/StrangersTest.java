package hardproof.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Client;
import hardproof.server.people.Role;
import java.io.IOException;
import java.io.InputStream;
import java.net.Socket;
import java.net.SocketException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What somebody who has not signed in, or does not read what is sent, can make the server do. */
class StrangersTest {
  @TempDir
  Path folder;

  private RunningServer server;

  @BeforeEach
  void start() throws IOException {
    server = new RunningServer(folder).with(Role.OPERATOR, Role.AUDITOR);
  }

  @AfterEach
  void stop() {
    server.close();
  }

  private Socket connect() throws IOException {
    Socket socket = new Socket("127.0.0.1", server.client().port());
    socket.setSoTimeout(30_000);
    return socket;
  }

  private static void write(Socket socket, String text) throws IOException {
    socket.getOutputStream().write(text.getBytes(StandardCharsets.ISO_8859_1));
    socket.getOutputStream().flush();
  }

  /** The first line of the answer; empty when the connection was closed without one. */
  private static String status(Socket socket) throws IOException {
    StringBuilder line = new StringBuilder();
    InputStream in = socket.getInputStream();
    int c;
    while ((c = in.read()) >= 0 && c != '\n') {
      line.append((char) c);
    }
    return line.toString().strip();
  }

  @Test
  void aLargeBodyIsRefusedBeforeItIsRead() throws IOException {
    try (Socket socket = connect()) {
      write(
          socket,
          "POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\n"
              + "Content-Length: 2000000000\r\n\r\n{\"name\":\"");
      assertThat(status(socket)).contains(" 413");
      assertThat(new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8))
          .as("one answer, and nothing behind it")
          .endsWith("\"detail\":\"The body is larger than the 16384 bytes that are read here.\"}");
    }
  }

  /** Without a length it is counted as it comes. */
  @Test
  void aBodyThatDoesNotSayHowLongItIsIsCutOff() throws IOException {
    try (Socket socket = connect()) {
      write(
          socket,
          "POST /api/first-administrator HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\n"
              + "Transfer-Encoding: chunked\r\n\r\n");
      String chunk = "1000\r\n" + " ".repeat(0x1000) + "\r\n";
      try {
        for (int i = 0; i < 8; i++) {
          write(socket, chunk);
        }
      } catch (SocketException e) {
        // It has been closed already, which is what is wanted.
      }
      assertThat(status(socket)).contains(" 413");
    }
  }

  /** Two hundred megabytes of parts were once kept on the disk before it was asked who sends them. */
  @Test
  void nothingOfAStrangersUploadIsRead() throws IOException {
    try (Socket socket = connect()) {
      write(
          socket,
          "POST /api/imports?feed=x HTTP/1.1\r\nHost: x\r\nContent-Type: multipart/form-data; boundary=b\r\n"
              + "Content-Length: 90000000\r\n\r\n--b\r\n");
      assertThat(status(socket)).contains(" 401");
    }
    Client auditor = server.as(Role.AUDITOR);
    assertThat(auditor
            .upload("x", "points.csv", "key\n".getBytes(StandardCharsets.UTF_8))
            .status())
        .isEqualTo(403);
    assertThat(server
            .as(Role.OPERATOR)
            .upload("x", "workloads.csv", "key,name\na,A\n".getBytes(StandardCharsets.UTF_8))
            .status())
        .isEqualTo(201);
  }

  /** Each holds a thread while it sends a byte now and then; the others are told, and nobody else waits. */
  @Test
  void slowBodiesAreGivenUpAndHoldUpNobody() throws IOException {
    List<Socket> slow = new ArrayList<>();
    try {
      for (int i = 0; i < 60; i++) {
        // Another address than that of whoever wants to sign in.
        Socket socket = new Socket();
        socket.bind(new java.net.InetSocketAddress("127.0.0.2", 0));
        socket.connect(
            new java.net.InetSocketAddress("127.0.0.1", server.client().port()));
        slow.add(socket);
        write(
            socket,
            "POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\n"
                + "Content-Length: 100\r\n\r\n{");
      }
      long begun = System.nanoTime();
      assertThat(server.as(Role.AUDITOR).get("/api/board").status()).isEqualTo(200);
      assertThat(Duration.ofNanos(System.nanoTime() - begun)).isLessThan(Duration.ofSeconds(10));
      int told = 0;
      for (Socket socket : slow) {
        socket.setSoTimeout(200);
        try {
          told += status(socket).contains(" 503") ? 1 : 0;
        } catch (IOException e) {
          // Still read from.
        }
      }
      assertThat(told).isGreaterThan(20);
    } finally {
      for (Socket socket : slow) {
        socket.close();
      }
    }
  }

  @Test
  void whatAStrangerAsksForMakesNoSession() {
    Client stranger = server.client();
    assertThat(stranger.get("/api/board").status()).isEqualTo(401);
    assertThat(stranger.cookie("JSESSIONID")).isEmpty();
  }

  /** A stream that nobody reads once stalled the others for twenty seconds each time. */
  @Test
  void streamsThatAreNotReadHoldUpNoOther() throws Exception {
    Client operator = server.as(Role.OPERATOR);
    String cookie = "JSESSIONID=" + operator.cookie("JSESSIONID");
    List<Socket> deaf = new ArrayList<>();
    List<String> heard = new java.util.concurrent.CopyOnWriteArrayList<>();
    try {
      for (int i = 0; i < 3; i++) {
        Socket socket = new Socket();
        socket.setReceiveBufferSize(1024);
        socket.connect(new java.net.InetSocketAddress("127.0.0.1", operator.port()));
        write(socket, "GET /api/events HTTP/1.1\r\nHost: x\r\nCookie: " + cookie + "\r\n\r\n");
        deaf.add(socket);
      }
      Thread reader = new Thread(() -> operator.stream("/api/events", heard::add));
      reader.setDaemon(true);
      reader.start();
      Awaitility.await().atMost(Duration.ofSeconds(20)).until(() -> !heard.isEmpty());
      // Far more than a socket takes that is not read.
      var events = server.bean(hardproof.server.drills.RunQueue.class);
      String run = new hardproof.server.drills.DrillWith(server.estate)
          .queue(
              "share",
              null,
              hardproof.core.drills.Method.READ_THROUGH,
              Duration.ZERO,
              List.of(),
              null);
      events.runOne();
      Awaitility.await()
          .atMost(Duration.ofSeconds(10))
          .until(() -> heard.stream().anyMatch(l -> l.contains(run) && l.contains("passed")));
    } finally {
      for (Socket socket : deaf) {
        socket.close();
      }
    }
  }

  @Test
  void smallThingsAreErrorsOfWhoAsked() {
    Client operator = server.as(Role.OPERATOR);
    for (String asAt :
        List.of("-1000000000-01-01T00:00:00Z", "1960-01-01T00:00:00Z", "yesterday")) {
      assertThat(operator.get("/api/board?asAt=" + asAt).status()).as(asAt).isEqualTo(400);
    }
    assertThat(operator.put("/api/resources/db/checks", "{\"checks\":[null]}").status())
        .isEqualTo(400);
    assertThat(operator
            .post(
                "/api/policy-additions",
                "{\"policy\":\"daily\",\"resources\":[null],\"reason\":\"x\"}")
            .status())
        .isEqualTo(400);
    assertThat(operator.put("/api/feeds/test", "{\"fullListings\":[null]}").status())
        .isEqualTo(400);
    assertThat(operator.delete("/api/imports/unknown").status()).isEqualTo(404);
    assertThat(operator.post("/api/engines", "").status()).isEqualTo(403);
  }

  /** Outside checks go only where an administrator allows it, and say nothing of ports. */
  @Test
  void outsideChecksGoOnlyWhereItIsAllowed() {
    server.with(Role.ADMINISTRATOR);
    Client operator = server.as(Role.OPERATOR);
    String check = "{\"checks\":[{\"type\":\"outside\",\"subject\":\"%s\",\"expected\":\"1h\"}]}";
    assertThat(operator
            .put("/api/outside-hosts", "{\"hosts\":[\"proof.example\"]}")
            .status())
        .isEqualTo(403);
    Client admin = server.as(Role.ADMINISTRATOR);
    assertThat(admin
            .put("/api/outside-hosts", "{\"hosts\":[\"Proof.example:8443\"]}")
            .status())
        .isEqualTo(200);
    for (String refused : List.of(
        "http://127.0.0.1:22/",
        "http://169.254.169.254/latest",
        "http://[::1]:9/",
        "https://proof.example/",
        "https://proof.example:8444/")) {
      assertThat(
              operator.put("/api/resources/db/checks", check.formatted(refused)).detail())
          .as(refused)
          .contains("may not be asked from here")
          .contains("Engines and sandboxes");
    }
    assertThat(operator
            .put("/api/resources/db/checks", check.formatted("https://proof.example:8443/v"))
            .status())
        .isEqualTo(200);
    admin.put("/api/outside-hosts", "{\"hosts\":[]}");
    assertThat(operator.post("/api/drill-plans", "{\"resource\":\"db\"}").detail())
        .as("kept when it was allowed")
        .contains("may not be asked from here");
    assertThat(admin.put("/api/outside-hosts", "{\"hosts\":[\"http://x/\"]}").detail())
        .contains("is no host");
  }
}
