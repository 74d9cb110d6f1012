package hardproof.server.people;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Answer;
import hardproof.server.RunningServer.Client;
import hardproof.server.activity.Activity;
import hardproof.server.commandline.HardProofCommand;
import hardproof.server.web.Refused;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Without people nobody but the demo's could ever decide an exception. */
class PeopleTest {
  private static final String PASSWORD = "a quite long sentence";

  @TempDir
  Path folder;

  private RunningServer server;
  private Client admin;

  @BeforeEach
  void start() throws IOException {
    server = new RunningServer(folder).with(Role.ADMINISTRATOR, Role.OPERATOR);
    admin = server.as(Role.ADMINISTRATOR);
  }

  @AfterEach
  void stop() {
    server.close();
  }

  private static String person(String name, String role) {
    return "{\"name\":\"" + name + "\",\"fullName\":\"Somebody\",\"role\":\"" + role + "\"}";
  }

  private static String token(Answer answer) {
    return answer.json().path("path").asString().replace("/set-password#", "");
  }

  private Answer use(String token, String password) {
    Client stranger = server.client();
    stranger.get("/api/session");
    return stranger.post(
        "/api/password-links/use",
        "{\"token\":\"" + token + "\",\"password\":\"" + password + "\"}");
  }

  @Test
  void somebodyIsAddedByALinkThatWorksOnce() {
    Answer added = admin.post("/api/people", person("bo", "approver"));
    assertThat(added.status()).isEqualTo(201);
    assertThat(added.json().path("path").asString()).startsWith("/set-password#");
    assertThat(server.client().signIn("bo", "!").status()).isEqualTo(401);
    String token = token(added);
    Client stranger = server.client();
    stranger.get("/api/session");
    assertThat(stranger
            .post("/api/password-links/look", "{\"token\":\"" + token + "\"}")
            .json()
            .path("name")
            .asString())
        .isEqualTo("bo");
    assertThat(use(token, "short").detail()).contains("too short");
    assertThat(use(token, PASSWORD).status()).isEqualTo(200);
    assertThat(use(token, PASSWORD + "2").detail()).contains("This link was used");
    Answer signedIn = server.client().signIn("BO", PASSWORD);
    assertThat(signedIn.json().path("person").path("role").asString()).isEqualTo("approver");
    assertThat(admin.post("/api/people", person("Bo", "auditor")).status()).isEqualTo(409);
    // Of the link only its checksum was kept.
    assertThat(server.estate.installation.part(Activity.class).newest(50).toString())
        .doesNotContain(token);
  }

  @Test
  void aLinkEndsByItselfAndByTheNextOne() {
    String first = token(admin.post("/api/people", person("bo", "approver")));
    String second = token(admin.post("/api/people/bo/reset", ""));
    assertThat(use(first, PASSWORD).status()).isEqualTo(422);
    server.estate.clock.forward(PeopleDesk.LINK_LASTS);
    assertThat(use(second, PASSWORD).detail()).contains("older than 7 days");
    assertThat(use("0".repeat(64), PASSWORD).status()).isEqualTo(422);
  }

  /** The next request of whoever was signed in is one of nobody. */
  @Test
  void sessionsEndAtOnceWithTheirPersonTheirRoleAndTheirPassword() {
    Client operator = server.as(Role.OPERATOR);
    assertThat(operator.get("/api/board").status()).isEqualTo(200);
    assertThat(admin.put("/api/people/operator/role", "{\"role\":\"auditor\"}").status())
        .isEqualTo(204);
    assertThat(operator.get("/api/board").status()).isEqualTo(401);

    Client again = server.as(Role.OPERATOR);
    assertThat(again.get("/api/session").json().path("person").path("role").asString())
        .isEqualTo("auditor");
    admin.post("/api/people/operator/reset", "");
    assertThat(again.get("/api/board").status()).isEqualTo(401);
    assertThat(server.client().signIn("operator", RunningServer.PASSWORD).status())
        .isEqualTo(401);
  }

  @Test
  void whoHasEndedStaysKnownAndComesInNoMore() {
    Client operator = server.as(Role.OPERATOR);
    assertThat(admin.post("/api/people/operator/end", "").status()).isEqualTo(204);
    assertThat(operator.get("/api/board").status()).isEqualTo(401);
    assertThat(server.client().signIn("operator", RunningServer.PASSWORD).status())
        .isEqualTo(401);
    assertThat(admin.get("/api/people").json())
        .anyMatch(p -> p.path("name").asString().equals("operator") && p.has("ended"));
    assertThat(admin.post("/api/people", person("operator", "approver")).detail())
        .contains("There is, or was, somebody called 'operator'");
    assertThat(admin.post("/api/people/operator/reset", "").detail()).contains("has ended");
  }

  /** A stream that was open goes with the session. */
  @Test
  void anOpenStreamEndsWithItsPerson() throws Exception {
    Client operator = server.as(Role.OPERATOR);
    List<String> lines = new java.util.concurrent.CopyOnWriteArrayList<>();
    Thread reader = new Thread(() -> operator.stream("/api/events", lines::add));
    reader.start();
    Awaitility.await().atMost(Duration.ofSeconds(20)).until(() -> !lines.isEmpty());
    admin.post("/api/people/operator/end", "");
    reader.join(20_000);
    assertThat(reader.isAlive()).isFalse();
  }

  @Test
  void theLastAdministratorStays() {
    for (Answer refused : List.of(
        admin.post("/api/people/administrator/end", ""),
        admin.post("/api/people/administrator/reset", ""),
        admin.put("/api/people/administrator/role", "{\"role\":\"auditor\"}"))) {
      assertThat(refused.status()).isEqualTo(422);
      assertThat(refused.detail()).contains("is the last administrator who can sign in");
    }
    // One who has not set a password yet can't sign in, so does not count.
    String token = token(admin.post("/api/people", person("bo", "administrator")));
    assertThat(admin.post("/api/people/administrator/end", "").status()).isEqualTo(422);
    use(token, PASSWORD);
    assertThat(admin.post("/api/people/administrator/end", "").status()).isEqualTo(204);
    assertThat(admin.get("/api/people").status()).isEqualTo(401);
  }

  @Test
  void onlyAdministratorsSeeAndChangePeople() {
    for (Role role : List.of(Role.OPERATOR)) {
      Client client = server.as(role);
      assertThat(client.get("/api/people").status()).isEqualTo(403);
      assertThat(client.post("/api/people", person("x", "approver")).status()).isEqualTo(403);
      assertThat(client.post("/api/people/administrator/end", "").status()).isEqualTo(403);
      assertThat(
              client.put("/api/people/operator/role", "{\"role\":\"approver\"}").status())
          .isEqualTo(403);
    }
    assertThat(server.client().get("/api/people").status()).isEqualTo(401);
  }

  @Test
  void everyoneChangesTheOwnPasswordAndTheirOtherSessionsEnd() {
    Client here = server.as(Role.OPERATOR);
    Client elsewhere = server.as(Role.OPERATOR);
    String form = "{\"old\":\"%s\",\"password\":\"%s\"}";
    assertThat(here.put("/api/own-password", form.formatted("guess", PASSWORD)).detail())
        .isEqualTo("The old password is wrong.");
    assertThat(here.put("/api/own-password", form.formatted(RunningServer.PASSWORD, "password1234"))
            .detail())
        .contains("tried first");
    assertThat(here.put("/api/own-password", form.formatted(RunningServer.PASSWORD, PASSWORD))
            .status())
        .isEqualTo(204);
    assertThat(here.get("/api/board").status()).isEqualTo(200);
    assertThat(elsewhere.get("/api/board").status()).isEqualTo(401);
    assertThat(server.client().signIn("operator", PASSWORD).status()).isEqualTo(200);
  }

  /** NIST SP 800-63B section 5.1.1.2: length, and a list of those that are known; no rule of characters. */
  @Test
  void passwordsAreLongAndNotCommon() {
    for (String bad : List.of(
        "eleven chars",
        "PASSWORD1234",
        "aaaaaaaaaaaaaa",
        "121212121212",
        "my-bo is the best name".replace("bo", "edda"),
        "x".repeat(60) + "abcdefghijklm")) {
      String ofTwelve = bad.equals("eleven chars") ? bad.substring(1) : bad;
      assertThatThrownBy(() -> Passwords.check(ofTwelve, "edda"))
          .as(ofTwelve)
          .isInstanceOf(Refused.class);
    }
    for (String good :
        List.of("eleven chars", "ein ganz langer Satz", "пароль из слов", "4r8!kd?2mMx.")) {
      Passwords.check(good, "edda");
    }
  }

  /** What is done is written down with who did it, and the database lets nobody change that. */
  @Test
  void whoDidWhatIsWrittenDownForGood() {
    admin.post("/api/people", person("bo", "approver"));
    Client operator = server.as(Role.OPERATOR);
    operator.put("/api/feeds/test", "{\"expectedEvery\":\"24h\"}");
    operator.put(
        "/api/resources/db/checks",
        "{\"checks\":[{\"type\":\"query-at-least\",\"subject\":\"SELECT 1\",\"expected\":\"1\"}]}");
    operator.post(
        "/api/programmes",
        "{\"name\":\"Nightly\",\"when\":{\"rule\":\"FREQ=DAILY\",\"zone\":\"UTC\",\"startWindow\":\"4h\"}}");
    operator.post(
        "/api/policies",
        "{\"fields\":{\"key\":\"own\",\"name\":\"Own\",\"schedule\":\"24h\",\"scope\":\"{\\\"all\\\":[{\\\"field\\\":\\\"key\\\",\\\"in\\\":[\\\"db\\\"]}]}\"}}");
    Activity activity = server.estate.installation.part(Activity.class);
    Awaitility.await()
        .atMost(Duration.ofSeconds(20))
        .untilAsserted(() -> assertThat(activity.newest(50))
            .extracting(d -> d.by() + ": " + d.what() + " " + d.subject())
            .contains(
                "administrator: person added bo",
                "operator: signed in operator",
                "operator: said of a feed test",
                "operator: checks changed db",
                "operator: programme added nightly",
                "operator: policy added own"));
    var database = server.estate.installation.database();
    for (String sql : List.of("DELETE FROM activity", "UPDATE activity SET by = 'x'")) {
      assertThatThrownBy(() -> database.write(() -> database.writes().sql(sql).update()))
          .hasMessageContaining("what was done is not");
    }
  }

  private String run(int code, String... arguments) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    PrintStream print = new PrintStream(out, true, StandardCharsets.UTF_8);
    String[] all = new String[arguments.length + 2];
    System.arraycopy(arguments, 0, all, 0, arguments.length);
    all[arguments.length] = "--data";
    all[arguments.length + 1] = server.estate.installation.folder().root().toString();
    assertThat(HardProofCommand.run(all, print, print)).as(out.toString()).isEqualTo(code);
    return out.toString(StandardCharsets.UTF_8);
  }

  /** With the data folder in hand, also when nobody can sign in. */
  @Test
  void theCommandLineDoesTheSame() {
    assertThat(run(0, "people", "list")).contains("administrator", "operator");
    String added = run(0, "people", "add", "bo", "--role", "approver", "--full-name", "Bo Sund");
    String token = added.substring(added.indexOf('#') + 1).strip();
    assertThat(use(token, PASSWORD).status()).isEqualTo(200);
    assertThat(run(0, "people", "role", "bo", "auditor")).contains("bo is auditor now");
    assertThat(run(0, "people", "end", "bo")).contains("can't sign in any more");
    assertThat(run(0, "people", "list")).contains("(ended ");
    assertThat(run(2, "people", "add", "x", "--role", "king")).contains("'king' is no role");
    assertThat(run(2, "people", "reset", "administrator")).contains("last administrator");
    assertThat(run(0, "people", "reset", "administrator", "--even-the-last"))
        .contains("/set-password#");
    assertThat(run(2, "people", "end", "nobody")).contains("Nobody is called 'nobody'");
    assertThat(run(2, "people"))
        .as("never the default folder in place of the one that was named")
        .contains("Unknown options: '--data'");
    ByteArrayOutputStream err = new ByteArrayOutputStream();
    PrintStream print = new PrintStream(err, true, StandardCharsets.UTF_8);
    assertThat(HardProofCommand.run(new String[] {"people"}, print, print)).isEqualTo(2);
    assertThat(err.toString(StandardCharsets.UTF_8)).contains("Which of list");
  }
}
