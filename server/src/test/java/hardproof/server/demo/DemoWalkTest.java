package hardproof.server.demo;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.demo.DemoWalk.State;
import hardproof.server.demo.DemoWalk.Walk;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** With a shell in the place of the demo. */
class DemoWalkTest {
  private final List<Path> folders = new ArrayList<>();
  private final List<Process> begun = new ArrayList<>();
  private DemoWalk walk;

  private DemoWalk of(String script) {
    walk = new DemoWalk(folder -> {
      folders.add(folder);
      Files.writeString(folder.resolve("kept"), "x");
      begun.add(new ProcessBuilder("sh", "-c", script).redirectErrorStream(true).start());
      return begun.get(begun.size() - 1);
    });
    return walk;
  }

  @AfterEach
  void end() {
    walk.close();
  }

  private Walk until(State state) {
    Awaitility.await().until(() -> walk.now().state() == state);
    return walk.now();
  }

  @Test
  void itSaysWhereItIsAndEndsWithUs() {
    of("echo making; echo Hard Proof is at http://localhost:4711; read never");
    assertThat(walk.now().state()).isEqualTo(State.NONE);
    walk.begin();
    assertThat(until(State.RUNNING)).isEqualTo(new Walk(State.RUNNING, "it runs", 4711));
    assertThat(walk.begin()).as("there is one already").isEqualTo(walk.now());
    assertThat(begun).hasSize(1);
    walk.close();
    assertThat(begun.get(0).isAlive()).isFalse();
    assertThat(folders.get(0)).doesNotExist();
    assertThat(walk.now()).isEqualTo(new Walk(State.NONE, "", 0));
  }

  @Test
  void whatItDoesIsToldUntilItRuns() {
    of("echo; echo 45 days are brought in; echo 2026-11-30T07:34:17.989Z INFO x; read never");
    walk.begin();
    Awaitility.await().until(() -> walk.now().sentence().equals("45 days are brought in"));
    assertThat(walk.now().state()).isEqualTo(State.STARTING);
    assertThat(walk.end().state()).isEqualTo(State.NONE);
    Awaitility.await().until(() -> !Files.exists(folders.get(0)));
  }

  @Test
  void oneThatEndsByItselfSaysWhyAndAnotherCanBeBegun() {
    of("echo no space is left; exit 3");
    walk.begin();
    assertThat(until(State.FAILED).sentence()).isEqualTo("it ended by itself: no space is left");
    Awaitility.await().until(() -> !Files.exists(folders.get(0)));
    walk.begin();
    Awaitility.await().until(() -> begun.size() == 2 && walk.now().state() == State.FAILED);
  }

  @Test
  void oneThatCannotBeBegunSaysWhy() {
    walk = new DemoWalk(folder -> {
      folders.add(folder);
      throw new IOException("there is no java");
    });
    assertThat(walk.begin())
        .isEqualTo(new Walk(State.FAILED, "it could not be begun: there is no java", 0));
    assertThat(folders.get(0)).doesNotExist();
  }
}
