package hardproof.server.people;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Answer;
import hardproof.server.RunningServer.Client;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SignInTest {
  private static final String DRILL = "{\"resource\": \"share\", \"reason\": \"a test\"}";

  @TempDir
  Path folder;

  private RunningServer server;

  @BeforeEach
  void start() throws IOException {
    server = new RunningServer(folder);
  }

  @AfterEach
  void stop() {
    server.close();
  }

  @Test
  void nothingIsShownToWhoHasNotSignedIn() {
    server.with(Role.AUDITOR);
    Client client = server.client();
    assertThat(client.get("/api/board").status()).isEqualTo(401);
    assertThat(client.get("/api/events").status()).isEqualTo(401);
    assertThat(client.get("/v3/api-docs").status()).isEqualTo(401);
    assertThat(client.get("/api/session").json().path("person").isMissingNode()).isTrue();
    assertThat(client.get("/board").status()).isEqualTo(200);
  }

  @Test
  void signingInAndOut() {
    server.with(Role.AUDITOR);
    Client client = server.client();
    client.get("/api/session");
    Answer wrong = client.signIn("auditor", "guess");
    assertThat(wrong.status()).isEqualTo(401);
    assertThat(wrong.detail()).isEqualTo("The name or the password is wrong.");
    assertThat(client.signIn("nobody", "guess").detail()).isEqualTo(wrong.detail());
    Answer right = client.signIn("auditor", RunningServer.PASSWORD);
    assertThat(right.json().path("person").path("role").asString()).isEqualTo("auditor");
    assertThat(client.get("/api/board").status()).isEqualTo(200);
    assertThat(client.delete("/api/session").status()).isEqualTo(204);
    assertThat(client.get("/api/board").status()).isEqualTo(401);
  }

  @Test
  void theSessionCookieIsHiddenFromScriptsAndChangesWithTheSignIn() {
    server.with(Role.AUDITOR);
    Client client = server.client();
    Answer answer = client.signIn("auditor", RunningServer.PASSWORD);
    assertThat(answer.response().headers().allValues("set-cookie"))
        .anySatisfy(c -> assertThat(c)
            .startsWith("JSESSIONID=")
            .contains("HttpOnly")
            .contains("SameSite=Strict"));
    String before = client.cookie("JSESSIONID");
    client.signIn("auditor", RunningServer.PASSWORD);
    assertThat(client.cookie("JSESSIONID")).isNotEqualTo(before);
  }

  @Test
  void anotherSiteCanNotActForWhoIsSignedIn() {
    server.with(Role.OPERATOR);
    assertThat(
            server.as(Role.OPERATOR).postWithoutToken("/api/drill-runs", DRILL).status())
        .isEqualTo(403);
    assertThat(server.estate.installation.runs().underWay()).isEmpty();
  }

  @Test
  void whoMayDoWhat() {
    server.with(Role.AUDITOR, Role.OPERATOR, Role.APPROVER, Role.ADMINISTRATOR);
    for (Role role : Role.values()) {
      boolean works = role == Role.OPERATOR || role == Role.ADMINISTRATOR;
      Client client = server.as(role);
      assertThat(client.get("/api/board").status()).as(role + " reads").isEqualTo(200);
      assertThat(client.post("/api/packs", "{}").status())
          .as(role + " makes packs")
          .isEqualTo(202);
      assertThat(client.post("/api/drill-runs", DRILL).status())
          .as(role + " drills")
          .isEqualTo(works ? 201 : 403);
      assertThat(
              client.upload("f", "workloads.csv", "key,name\na,A\n".getBytes()).status())
          .as(role + " brings facts in")
          .isEqualTo(works ? 201 : 403);
      assertThat(client.put("/api/feeds/test", "{\"expectedEvery\": \"24h\"}").status())
          .as(role + " says how often")
          .isEqualTo(works ? 204 : 403);
    }
  }

  @Test
  void guessingIsSlowedDownAndForgottenAfterTheWait() {
    server.with(Role.AUDITOR);
    Client client = server.client();
    client.get("/api/session");
    for (int i = 0; i < SignInGuard.FREE_TRIES; i++) {
      assertThat(client.signIn("auditor", "guess " + i).status()).isEqualTo(401);
    }
    Answer locked = client.signIn("AUDITOR", RunningServer.PASSWORD);
    assertThat(locked.status()).isEqualTo(429);
    assertThat(locked.detail()).startsWith("Too many wrong tries").contains("30 s");
    assertThat(locked.response().headers().firstValue("Retry-After")).contains("30");
    server.estate.clock.forward(SignInGuard.FIRST_WAIT);
    assertThat(client.signIn("auditor", RunningServer.PASSWORD).status()).isEqualTo(200);
  }

  @Test
  void theWaitDoublesUpToItsMostAndIsOfOneAddress() {
    SignInGuard guard = new SignInGuard(server.estate.clock);
    for (int i = 0; i < SignInGuard.FREE_TRIES - 1; i++) {
      guard.failed("x", "a");
    }
    assertThat(guard.waitFor("x", "a")).isZero();
    guard.failed("x", "a");
    assertThat(guard.waitFor("x", "a")).isEqualTo(SignInGuard.FIRST_WAIT);
    guard.failed("X", "a");
    assertThat(guard.waitFor("x", "a")).isEqualTo(Duration.ofSeconds(60));
    for (int i = 0; i < 20; i++) {
      guard.failed("x", "a");
    }
    assertThat(guard.waitFor("x", "a")).isEqualTo(SignInGuard.LONGEST_WAIT);
    assertThat(guard.waitFor("x", "b"))
        .as("the last way in is not locked from outside")
        .isZero();
    guard.succeeded("x", "a");
    assertThat(guard.waitFor("x", "a")).isZero();
    server.estate.clock.forward(Duration.ofHours(2));
    guard.failed("x", "a");
    assertThat(guard.waitFor("x", "a")).as("old failures are forgotten").isZero();
  }

  /** Many names from one address are one guesser; and whoever fills its memory only makes it forget. */
  @Test
  void anAddressThatTriesManyNamesWaitsAndWhatIsKeptIsBounded() {
    SignInGuard guard = new SignInGuard(server.estate.clock);
    for (int i = 0; i < SignInGuard.FREE_TRIES_OF_ADDRESS; i++) {
      assertThat(guard.waitFor("name " + i, "a")).isZero();
      guard.failed("name " + i, "a");
    }
    assertThat(guard.waitFor("one more", "a")).isPositive();
    for (int i = 0; i < 3 * SignInGuard.KEPT; i++) {
      guard.failed("n".repeat(1_000) + i, "address " + i);
    }
    assertThat(guard.kept()).isLessThanOrEqualTo(SignInGuard.KEPT);
  }

  @Test
  void theFirstAdministratorIsMadeWithTheCodeOfTheConsoleAndOnlyOnce() {
    FirstAdministrator first = server.bean(FirstAdministrator.class);
    Client client = server.client();
    assertThat(client.get("/api/session").json().path("needsFirstAdministrator").asBoolean())
        .isTrue();
    String form =
        "{\"code\": \"%s\", \"name\": \"edda\", \"fullName\": \"Edda\", \"password\": \"%s\"}";
    assertThat(client
            .post("/api/first-administrator", form.formatted("WRONG", RunningServer.PASSWORD))
            .detail())
        .startsWith("That is not the code");
    assertThat(client
            .post("/api/first-administrator", form.formatted(first.code(), "short"))
            .detail())
        .startsWith("The password is too short");
    Answer made = client.post(
        "/api/first-administrator", form.formatted(first.code(), RunningServer.PASSWORD));
    assertThat(made.status()).isEqualTo(204);
    assertThat(client
            .signIn("edda", RunningServer.PASSWORD)
            .json()
            .path("person")
            .path("role")
            .asString())
        .isEqualTo("administrator");
    assertThat(client
            .post("/api/first-administrator", form.formatted(first.code(), RunningServer.PASSWORD))
            .detail())
        .startsWith("There is an administrator already");
    assertThat(server
            .estate
            .installation
            .part(PeopleStore.class)
            .find("edda")
            .orElseThrow()
            .passwordHash())
        .startsWith("$2")
        .doesNotContain(RunningServer.PASSWORD);
  }

  @Test
  void withoutTheDemoNoPersonIsShown() {
    server.with(Role.AUDITOR);
    assertThat(server.client().get("/api/session").json().path("demoPeople").size())
        .isZero();
  }
}
