package hardproof.server.drills;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.RunningServer;
import hardproof.server.people.Role;
import hardproof.server.runs.Run;
import hardproof.server.runs.ScreenStore;
import hardproof.standins.artifacts.Machines;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** Machines whose screens are read, and those that somebody has to judge. */
class MachinesTest {
  @TempDir
  Path folder;

  private RunningServer server;
  private RunningServer.Client client;
  private DrillWith drills;

  @BeforeEach
  void start() throws IOException {
    server = new RunningServer(folder).with(Role.OPERATOR, Role.AUDITOR);
    client = server.as(Role.OPERATOR);
    drills = new DrillWith(server.estate);
  }

  @AfterEach
  void stop() {
    server.close();
  }

  private Run boot(String key) {
    return drills.run(key, Method.BOOT, Duration.ZERO, List.of());
  }

  @Test
  void theLastScreenIsKeptAsAPictureAndText() throws IOException {
    drills.machine("gate", Machines.Fate.BOOTS);
    Run run = boot("gate");
    assertThat(run.checks()).as(run.sentence()).isEqualTo(ChecksState.PASSED);
    JsonNode screens = client.get("/api/drill-runs/" + run.id() + "/screens").json();
    JsonNode last = screens.path(screens.size() - 1);
    assertThat(last.path("screenClass").asString()).isEqualTo("login-reached");
    assertThat(last.path("lines").toString()).contains("gate login:");
    assertThat(client
            .bytes(
                "/api/drill-runs/" + run.id() + "/screens/"
                    + last.path("number").asInt() + ".png",
                "")
            .body())
        .startsWith(0x89, 'P', 'N', 'G');
    assertThat(client.get("/api/drill-runs/" + run.id() + "/screens/77.png").status())
        .isEqualTo(404);
  }

  @Test
  void whileItRunsItsScreenCanBeSeen() throws IOException {
    drills.machine("gate", Machines.Fate.BOOTS);
    List<byte[]> seen = new ArrayList<>();
    server.estate.installation.queue().onChange(id -> {
      String screens = "/api/drill-runs/" + id + "/screens";
      boolean live = client
          .get(screens)
          .json()
          .valueStream()
          .anyMatch(s -> s.path("number").asInt() == ScreenStore.LIVE);
      if (live) {
        try {
          seen.add(client.bytes(screens + "/" + ScreenStore.LIVE + ".png", "").body());
        } catch (IOException e) {
          throw new UncheckedIOException(e);
        }
      }
    });
    Run run = boot("gate");
    assertThat(seen).isNotEmpty();
    assertThat(seen.get(0)).startsWith(0x89, 'P', 'N', 'G');
    assertThat(client
            .get("/api/drill-runs/" + run.id() + "/screens/" + ScreenStore.LIVE + ".png")
            .status())
        .as("it shows nothing any more")
        .isEqualTo(404);
  }

  /** Unknown never passes by itself: somebody says that it is right, once, and it is known from then on. */
  @Test
  void anUnknownScreenIsAcceptedOnceAndKnownAgain() throws IOException {
    drills.machine("logger", Machines.Fate.OWN_CONSOLE);
    Run waiting = boot("logger");
    assertThat(waiting.checks()).isEqualTo(ChecksState.WAITING);
    assertThat(waiting.ended()).isFalse();
    assertThat(server.estate.installation.runs().facts(server.estate.clock.instant()))
        .as("it says nothing yet")
        .isEmpty();
    String word = "/api/drill-runs/" + waiting.id() + "/screen-word";
    assertThat(server
            .as(Role.AUDITOR)
            .post(word, "{\"right\": true, \"reason\": \"x\"}")
            .status())
        .isEqualTo(403);
    assertThat(client.post(word, "{\"right\": true, \"reason\": \" \"}").detail())
        .isEqualTo("Say how you know: it stands in the evidence.");
    JsonNode ended = client
        .post(word, "{\"right\": true, \"reason\": \"I stood before it\"}")
        .json();
    assertThat(ended.path("passed").asBoolean()).isTrue();
    assertThat(ended.path("sentence").asString())
        .contains("operator says that this screen is right: I stood before it");
    assertThat(ended.path("cleanup").asString()).isEqualTo("done");
    assertThat(client.post(word, "{\"right\": true, \"reason\": \"again\"}").detail())
        .isEqualTo("This run does not wait for anybody's word on its screen.");

    Run again = boot("logger");
    assertThat(again.checks()).as(again.sentence()).isEqualTo(ChecksState.PASSED);
    assertThat(again.sentence()).contains("its screen is the one accepted by operator");
  }

  @Test
  void aScreenThatIsSaidToBeWrongFails() throws IOException {
    drills.machine("logger", Machines.Fate.OWN_CONSOLE);
    Run waiting = boot("logger");
    client.post(
        "/api/drill-runs/" + waiting.id() + "/screen-word",
        "{\"right\": false, \"reason\": \"that is the service menu\"}");
    Run ended = drills.find(waiting.id());
    assertThat(ended.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(ended.blamedPoint()).isEqualTo("logger-1");
    assertThat(drills
            .run("logger", "logger-1", Method.BOOT, Duration.ZERO, List.of(), null)
            .checks())
        .as("nothing was accepted")
        .isEqualTo(ChecksState.WAITING);
  }

  @Test
  void aRunThatWaitsOutlivesARestartAndEndsInTime() throws IOException {
    drills.machine("logger", Machines.Fate.OWN_CONSOLE);
    Run waiting = boot("logger");
    server.estate.installation.queue().recover();
    assertThat(drills.find(waiting.id()).awaiting()).isTrue();
    server.estate.clock.forward(Duration.ofDays(7).minusMillis(1));
    server.estate.installation.queue().cleanUp();
    assertThat(drills.find(waiting.id()).awaiting()).isTrue();
    server.estate.clock.forward(Duration.ofMillis(1));
    server.estate.installation.queue().cleanUp();
    Run ended = drills.find(waiting.id());
    assertThat(ended.checks()).isEqualTo(ChecksState.NOT_ASKED);
    assertThat(ended.fact().failed()).as("it says nothing about the machine").isFalse();
    assertThat(ended.fact().took()).as("waiting is no work").isLessThan(Duration.ofHours(1));
    assertThat(ended.cleanup()).isEqualTo(CleanupState.DONE);
  }

  @Test
  void whatWaitsCanBeCancelled() throws IOException {
    drills.machine("logger", Machines.Fate.OWN_CONSOLE);
    Run waiting = boot("logger");
    assertThat(client.delete("/api/drill-runs/" + waiting.id()).status()).isEqualTo(202);
    assertThat(drills.find(waiting.id()).ended()).isTrue();
    assertThat(server.estate.installation.sandboxes().present()).isEmpty();
  }

  @Test
  void theEnginesOfThisMachineAreShown() {
    JsonNode engines = client.get("/api/engines").json();
    assertThat(engines.valueStream().map(e -> e.path("code").asString()))
        .containsExactly(
            "sqlite", "postgresql", "mariadb", "directory", "stand-in", "qemu", "keys");
    assertThat(engines)
        .allSatisfy(e -> assertThat(e.path("sentence").asString()).isNotBlank());
    assertThat(server.as(Role.AUDITOR).post("/api/engines", "{}").status()).isEqualTo(403);
  }

  @Test
  void heldDataIsShownAndCleanedUpAtOnce() {
    Run held = drills.run("share", Method.FULL_RESTORE, Duration.ofHours(2), List.of());
    JsonNode space = client.get("/api/sandboxes").json();
    JsonNode one = space.path("sandboxes").path(0);
    assertThat(one.path("resource").asString()).isEqualTo("share");
    assertThat(one.path("bytes").asLong()).isPositive();
    assertThat(one.path("inUse").asBoolean()).isFalse();
    assertThat(client.delete("/api/sandboxes/" + held.id()).status()).isEqualTo(204);
    assertThat(client.get("/api/sandboxes").json().path("sandboxes").size()).isZero();
    assertThat(drills.find(held.id()).cleanup()).isEqualTo(CleanupState.DONE);
    assertThat(client.delete("/api/sandboxes/" + held.id()).detail())
        .startsWith("This run holds no restored data");
  }

  /** A link in place of the folder hides where the restored data went; removing it would be no clean-up. */
  @Test
  void whatWasMovedElsewhereIsNotTakenForCleanedUp() throws IOException {
    Run held = drills.run("share", Method.FULL_RESTORE, Duration.ofHours(2), List.of());
    Path sandbox = server.estate.installation.sandboxes().folder(held.id());
    Path moved = sandbox.resolveSibling("moved");
    Files.move(sandbox, moved);
    Files.createSymbolicLink(sandbox, moved);
    RunningServer.Answer refused = client.delete("/api/sandboxes/" + held.id());
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.detail())
        .contains("stands a link to " + moved)
        .endsWith("remove by hand what was moved there, then the link.");
    assertThat(moved.resolve("restored")).isDirectory();
    assertThat(drills.find(held.id()).cleanup()).isEqualTo(CleanupState.FAILED);
    JsonNode shown = client.get("/api/sandboxes").json().path("sandboxes");
    assertThat(shown.valueStream().map(s -> s.path("moved").asString("")))
        .anyMatch(m -> m.contains("stands a link to"));
    server.estate.installation.queue().cleanUp();
    assertThat(drills.find(held.id()).cleanup()).isEqualTo(CleanupState.FAILED);
    Sandboxes.removeTree(moved);
    Files.delete(sandbox);
    server.estate.installation.queue().cleanUp();
    assertThat(drills.find(held.id()).cleanup()).isEqualTo(CleanupState.DONE);
  }

  /** Where sandboxes are short, what is held goes before its time, the oldest first. */
  @Test
  void theOldestHeldDataMakesRoom() throws IOException {
    String first =
        drills.run("share", Method.FULL_RESTORE, Duration.ofHours(2), List.of()).id();
    int most = server.estate.installation.runner().limits().sandboxes();
    for (int i = 1; i < most; i++) {
      server.estate.clock.forward(Duration.ofSeconds(1));
      drills.run("share", Method.FULL_RESTORE, Duration.ofHours(2), List.of());
    }
    assertThat(server.estate.installation.sandboxes().present()).hasSize(most);
    Run one = drills.run("share", Method.FULL_RESTORE, Duration.ofHours(2), List.of());
    assertThat(one.restore()).isEqualTo(RestoreState.DONE);
    assertThat(drills.find(first).cleanup()).isEqualTo(CleanupState.DONE);
    assertThat(server.estate.installation.sandboxes().present()).hasSize(most);
  }

  /** What can't be drilled anyhow is no reason to give up what somebody may want to look at. */
  @Test
  void nothingHeldIsGivenUpInVain() throws IOException {
    int most = server.estate.installation.runner().limits().sandboxes();
    for (int i = 0; i < most; i++) {
      drills.run("share", Method.FULL_RESTORE, Duration.ofHours(2), List.of());
    }
    String id = drills.queue("share", null, Method.FULL_RESTORE, Duration.ZERO, List.of(), null);
    Path away = server.estate.store().resolveSibling("away");
    Files.move(server.estate.store(), away);
    server.estate.installation.queue().runOne();
    assertThat(drills.find(id).restore()).isEqualTo(RestoreState.REFUSED);
    assertThat(server.estate.installation.sandboxes().present()).hasSize(most);
  }
}
