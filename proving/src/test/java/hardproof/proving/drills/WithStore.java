package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.proving.Tar;
import hardproof.proving.boot.Screen;
import hardproof.proving.checks.Check;
import hardproof.proving.checksums.ChecksumList;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.proving.stores.FolderStore;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;

/** A store, sandboxes and a runner of its own for each test, and artifacts to put on the store. */
abstract class WithStore {
  /** Looked for once: QEMU's self-test takes a second. */
  static final Engines ENGINES =
      new Engines(Path.of(System.getProperty("java.io.tmpdir"), "hard-proof-self-test"));

  @TempDir
  Path temp;

  static final Instant DATA_TIME = Instant.parse("2026-11-24T09:00:00Z");

  Path storeFolder;
  Sandboxes sandboxes;
  DrillRunner runner;
  final Recorder watcher = new Recorder();

  /** Keeps everything it is told and holds it to the table of transitions. */
  static class Recorder implements DrillWatcher {
    final List<String> events = new ArrayList<>();
    List<String> steps = List.of();
    RestoreState restore = RestoreState.WAITING;
    ChecksState checks = ChecksState.WAITING;
    CleanupState cleanup = CleanupState.NOT_DUE;
    List<Screen> lastScreens = List.of();
    String screenClass;
    boolean cancel;
    int cancelAtStep = -1;

    @Override
    public void planned(List<String> names) {
      steps = names;
    }

    @Override
    public void started(int step, long totalBytes) {
      events.add("start " + step);
      cancel |= step == cancelAtStep;
    }

    @Override
    public void progressed(int step, long doneBytes) {
      assertThat(doneBytes).isPositive();
    }

    @Override
    public void ended(int step, StepState state, long doneBytes, String message) {
      events.add(state.code() + " " + step);
    }

    @Override
    public void restore(RestoreState state) {
      restore = hardproof.core.drills.Transitions.check(restore, state);
    }

    @Override
    public void checks(ChecksState state) {
      checks = hardproof.core.drills.Transitions.check(checks, state);
    }

    @Override
    public void cleanup(CleanupState state) {
      cleanup = hardproof.core.drills.Transitions.check(cleanup, state);
    }

    @Override
    public void screen(Screen screen) {
      events.add("screen");
    }

    @Override
    public void screens(List<Screen> last, String screenClass, String engine) {
      lastScreens = last;
      this.screenClass = screenClass;
    }

    @Override
    public boolean cancelled() {
      return cancel;
    }
  }

  @BeforeEach
  void prepare() throws IOException {
    storeFolder = Files.createDirectory(temp.resolve("store"));
    sandboxes = new Sandboxes(temp.resolve("sandboxes"), 0);
    runner = new DrillRunner(sandboxes, ENGINES, DrillLimits.usual());
  }

  Artifact put(String name, String format, byte[] content, String manifest) throws IOException {
    Files.write(storeFolder.resolve(name), content);
    String manifestSum = null;
    if (manifest != null) {
      Files.writeString(storeFolder.resolve(name + ".sha256"), manifest);
      manifestSum = Sha256.of(manifest.getBytes(StandardCharsets.UTF_8));
    }
    return new Artifact(
        "point-" + name, format, name, (long) content.length, Sha256.of(content), manifestSum);
  }

  static String manifest(String... namesAndContents) {
    Map<String, String> sums = new java.util.TreeMap<>();
    for (int i = 0; i < namesAndContents.length; i += 2) {
      sums.put(
          namesAndContents[i], Sha256.of(namesAndContents[i + 1].getBytes(StandardCharsets.UTF_8)));
    }
    return ChecksumList.format(sums);
  }

  DrillRequest request(Method method, List<Check> checks, boolean hold, Artifact... chain) {
    return request(method, checks, hold, DrillOptions.usual(), chain);
  }

  DrillRequest request(
      Method method, List<Check> checks, boolean hold, DrillOptions options, Artifact... chain) {
    return new DrillRequest(
        "run-1",
        new DrillRequest.Of("r", "p", DATA_TIME),
        new DrillRequest.From("store", "SKERRY DISK", new FolderStore(storeFolder)),
        method,
        List.of(chain),
        checks,
        hold,
        options,
        null,
        List.of());
  }

  DrillResult ask(Method method, Artifact artifact, Check... checks) {
    return runner.run(request(method, List.of(checks), false, artifact), new Recorder());
  }

  DrillResult run(Method method, Artifact... chain) {
    return runner.run(request(method, List.of(), false, chain), watcher);
  }

  void flip(String name, long at) throws IOException {
    try (RandomAccessFile file = new RandomAccessFile(storeFolder.resolve(name).toFile(), "rw")) {
      file.seek(at);
      int old = file.read();
      file.seek(at);
      file.write(old ^ 0x10);
    }
  }

  Artifact[] chain() throws IOException {
    Artifact full = put(
        "full.tar.gz",
        "tar.gz",
        new Tar().file("a", "one").file("b", "two").file("c", "x".repeat(5000)).gzip(),
        null);
    Artifact layer = put(
        "inc.tar.gz",
        "tar.gz",
        new Tar().file("a", "changed").file(".wh.b", "").gzip(),
        manifest("a", "changed", "c", "x".repeat(5000)));
    return new Artifact[] {full, layer};
  }
}
