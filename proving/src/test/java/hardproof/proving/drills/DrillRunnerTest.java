package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.proving.Tar;
import hardproof.proving.checksums.ChecksumList;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.proving.stores.FolderStore;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DrillRunnerTest {
  @TempDir
  Path temp;

  private Path storeFolder;
  private Sandboxes sandboxes;
  private DrillRunner runner;
  private final Recorder watcher = new Recorder();

  /** Keeps everything it is told and holds it to the table of transitions. */
  static final class Recorder implements DrillWatcher {
    final List<String> events = new ArrayList<>();
    List<String> steps = List.of();
    RestoreState restore = RestoreState.WAITING;
    ChecksState checks = ChecksState.WAITING;
    CleanupState cleanup = CleanupState.NOT_DUE;
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
    public boolean cancelled() {
      return cancel;
    }
  }

  @BeforeEach
  void prepare() throws IOException {
    storeFolder = Files.createDirectory(temp.resolve("store"));
    sandboxes = new Sandboxes(temp.resolve("sandboxes"), 0);
    runner = new DrillRunner(sandboxes);
  }

  private Artifact put(String name, String format, byte[] content, String manifest)
      throws IOException {
    Files.write(storeFolder.resolve(name), content);
    String manifestSum = null;
    if (manifest != null) {
      Files.writeString(storeFolder.resolve(name + ".sha256"), manifest);
      manifestSum = Sha256.of(manifest.getBytes(StandardCharsets.UTF_8));
    }
    return new Artifact(
        "point-" + name, format, name, (long) content.length, Sha256.of(content), manifestSum);
  }

  private static String manifest(String... namesAndContents) {
    Map<String, String> sums = new java.util.TreeMap<>();
    for (int i = 0; i < namesAndContents.length; i += 2) {
      sums.put(
          namesAndContents[i], Sha256.of(namesAndContents[i + 1].getBytes(StandardCharsets.UTF_8)));
    }
    return ChecksumList.format(sums);
  }

  private DrillRequest request(
      Method method, List<SqlCheck> checks, boolean hold, Artifact... chain) {
    return new DrillRequest(
        "run-1",
        "r",
        "p",
        "store",
        "SKERRY DISK",
        new FolderStore(storeFolder),
        method,
        List.of(chain),
        checks,
        hold);
  }

  private DrillResult run(Method method, Artifact... chain) {
    return runner.run(request(method, List.of(), false, chain), watcher);
  }

  private void flip(String name, long at) throws IOException {
    try (RandomAccessFile file = new RandomAccessFile(storeFolder.resolve(name).toFile(), "rw")) {
      file.seek(at);
      int old = file.read();
      file.seek(at);
      file.write(old ^ 0x10);
    }
  }

  private Artifact[] chain() throws IOException {
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

  @Test
  void aChainIsRestoredAndComparedAndRemoved() throws IOException {
    DrillResult result = run(Method.FULL_RESTORE, chain());
    assertThat(result.sentence())
        .isEqualTo("restored whole: 2 files (5.01 kB) equal to the manifest");
    assertThat(result.restore()).isEqualTo(RestoreState.DONE);
    assertThat(result.checks()).isEqualTo(ChecksState.PASSED);
    assertThat(result.cleanup()).isEqualTo(CleanupState.DONE);
    assertThat(result.reaches()).isEqualTo(Rung.RESTORED);
    assertThat(watcher.steps)
        .containsExactly(
            "Restore full.tar.gz",
            "Restore inc.tar.gz",
            "Compare with the manifest",
            "Remove the restored data");
    assertThat(watcher.events)
        .containsExactly(
            "start 0", "done 0", "start 1", "done 1", "start 2", "done 2", "start 3", "done 3");
    assertThat(sandboxes.present()).isEmpty();
  }

  @Test
  void heldDataStaysUntilItIsRemoved() throws IOException {
    DrillResult result =
        runner.run(request(Method.FULL_RESTORE, List.of(), true, chain()), watcher);
    assertThat(result.cleanup()).isEqualTo(CleanupState.HOLDING);
    assertThat(sandboxes.root().resolve("run-1/restored/a")).hasContent("changed");
    sandboxes.remove("run-1");
    assertThat(sandboxes.present()).isEmpty();
  }

  @Test
  void oneFlippedBitIsFoundByEveryMethodThatReads() throws IOException {
    for (Method method : List.of(Method.READ_THROUGH, Method.FULL_RESTORE)) {
      Artifact[] chain = chain();
      flip("full.tar.gz", 40);
      Recorder fresh = new Recorder();
      DrillResult result = runner.run(request(method, List.of(), false, chain), fresh);
      assertThat(result.sentence())
          .startsWith("full.tar.gz was read whole")
          .contains("as recorded: the copy is damaged");
      assertThat(result.blamedPoint()).isEqualTo("point-full.tar.gz");
      assertThat(result.blamedStore()).isEqualTo("store");
      assertThat(fresh.restore == RestoreState.FAILED || fresh.checks == ChecksState.FAILED)
          .isTrue();
      assertThat(sandboxes.present()).isEmpty();
    }
  }

  @Test
  void readThroughReportsItsRateAndWritesNothing() throws IOException {
    DrillResult result = run(Method.READ_THROUGH, chain());
    assertThat(result.sentence())
        .startsWith("2 artifacts read back whole")
        .endsWith("every SHA-256 as recorded");
    assertThat(result.reaches()).isEqualTo(Rung.INTACT);
    assertThat(result.bytes())
        .isEqualTo(Files.size(storeFolder.resolve("full.tar.gz"))
            + Files.size(storeFolder.resolve("inc.tar.gz")));
    assertThat(result.throughput()).isPositive();
    assertThat(sandboxes.present()).isEmpty();
    assertThat(watcher.cleanup).isEqualTo(CleanupState.NOT_DUE);
  }

  @Test
  void readThroughWithoutAChecksumIsRefused() throws IOException {
    Artifact a = chain()[0];
    DrillResult result =
        run(Method.READ_THROUGH, new Artifact("p", "tar.gz", a.place(), null, null, null));
    assertThat(result.restore()).isEqualTo(RestoreState.REFUSED);
    assertThat(result.sentence()).startsWith("no checksum was recorded for full.tar.gz");
  }

  @Test
  void aMissingArtifactFailsTheCopy() throws IOException {
    Artifact[] chain = chain();
    Files.delete(storeFolder.resolve("full.tar.gz"));
    for (Method method : List.of(Method.PRESENCE, Method.READ_THROUGH, Method.FULL_RESTORE)) {
      DrillResult result = runner.run(request(method, List.of(), false, chain), new Recorder());
      assertThat(result.restore()).as(method.code()).isEqualTo(RestoreState.FAILED);
      assertThat(result.sentence()).isEqualTo("full.tar.gz is not on the store (SKERRY DISK)");
      assertThat(result.blamedPoint()).isEqualTo("point-full.tar.gz");
    }
  }

  @Test
  void presenceComparesTheSize() throws IOException {
    Artifact[] chain = chain();
    assertThat(run(Method.PRESENCE, chain).reaches()).isEqualTo(Rung.HELD);
    Files.write(storeFolder.resolve("inc.tar.gz"), new byte[3]);
    DrillResult result =
        runner.run(request(Method.PRESENCE, List.of(), false, chain), new Recorder());
    assertThat(result.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(result.sentence()).startsWith("inc.tar.gz is 3 bytes long, ");
  }

  @Test
  void aStoreThatIsNotThereIsOurTroubleNotTheDatas() throws IOException {
    Artifact[] chain = chain();
    DrillRequest request = new DrillRequest(
        "run-1",
        "r",
        "p",
        "s",
        "HOLM DISK",
        new FolderStore(temp.resolve("unmounted")),
        Method.READ_THROUGH,
        List.of(chain),
        List.of(),
        false);
    DrillResult result = runner.run(request, watcher);
    assertThat(result.restore()).isEqualTo(RestoreState.REFUSED);
    assertThat(result.sentence()).startsWith("HOLM DISK can't be reached");
    assertThat(result.blamedPoint()).isNull();
  }

  @Test
  void aRestoreThatDiffersFromItsManifestNamesTheFiles() throws IOException {
    Artifact full = put(
        "f.tar",
        "tar",
        new Tar().file("a", "one").file("extra", "e").bytes(),
        manifest("a", "other", "gone", "g"));
    DrillResult result = run(Method.FULL_RESTORE, full);
    assertThat(result.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(result.sentence())
        .isEqualTo(
            "restored, but 1 file missing: gone; 1 file not in the manifest: extra; 1 file changed: a");
    assertThat(result.blamedStore()).as("the point is bad wherever it lies").isNull();
    assertThat(sandboxes.present()).isEmpty();
  }

  @Test
  void aManifestThatWasExchangedIsNoticed() throws IOException {
    Artifact full = put("f.tar", "tar", new Tar().file("a", "one").bytes(), manifest("a", "one"));
    Files.writeString(storeFolder.resolve("f.tar.sha256"), manifest("a", "two"));
    assertThat(run(Method.FULL_RESTORE, full).sentence())
        .isEqualTo("the manifest f.tar.sha256 is not the one that was recorded");
    Files.delete(storeFolder.resolve("f.tar.sha256"));
    assertThat(runner
            .run(request(Method.FULL_RESTORE, List.of(), false, full), new Recorder())
            .sentence())
        .isEqualTo("the manifest f.tar.sha256 is not on the store");
  }

  @Test
  void hostileArchivesFailAndLeaveNothing() throws IOException {
    Artifact evil =
        put("evil.tar", "tar", new Tar().file("../../owned", "x").bytes(), manifest("a", "one"));
    DrillResult result = run(Method.FULL_RESTORE, evil);
    assertThat(result.restore()).isEqualTo(RestoreState.FAILED);
    assertThat(result.sentence())
        .isEqualTo("evil.tar is refused: entry \"../../owned\" leaves the sandbox");
    assertThat(sandboxes.present()).isEmpty();
    assertThat(temp.resolve("owned")).doesNotExist();
  }

  @Test
  void fullRestoreNeedsAManifestAndAFormatItReads() throws IOException {
    assertThat(run(
                Method.FULL_RESTORE,
                put("a.tar", "tar", new Tar().file("a", "1").bytes(), null))
            .sentence())
        .startsWith("no manifest was recorded");
    DrillResult other = runner.run(
        request(Method.FULL_RESTORE, List.of(), false, put("a.rar", "rar", new byte[9], "")),
        new Recorder());
    assertThat(other.sentence())
        .isEqualTo(
            "a.rar is of format rar; full restore reads tar and tar.gz. Choose read-through instead.");
  }

  @Test
  void cancellingInterruptsAndCleansUp() throws IOException {
    watcher.cancelAtStep = 0;
    DrillResult result = run(Method.FULL_RESTORE, chain());
    assertThat(result.restore()).isEqualTo(RestoreState.INTERRUPTED);
    assertThat(result.sentence()).startsWith("cancelled");
    assertThat(result.blamedPoint()).isNull();
    assertThat(watcher.cleanup).isEqualTo(CleanupState.DONE);
    assertThat(sandboxes.present()).isEmpty();
  }

  @Test
  void thePlanSaysHowMuchSpaceIsShort() throws IOException {
    Artifact[] chain = chain();
    Sandboxes none = new Sandboxes(temp.resolve("full-disk"), Long.MAX_VALUE / 2);
    DrillPlan plan =
        new DrillRunner(none).plan(request(Method.FULL_RESTORE, List.of(), false, chain));
    assertThat(plan.refusal())
        .contains("has 0 B free")
        .contains("Choose read-through, which needs no space");
    assertThat(plan.spaceBytes()).isGreaterThan(5000);
    assertThat(new DrillRunner(none)
            .plan(request(Method.READ_THROUGH, List.of(), false, chain))
            .refusal())
        .isNull();
  }

  private Artifact database(String name, boolean gzip) throws Exception {
    Path file = temp.resolve("made.db");
    Files.deleteIfExists(file);
    try (var db = DriverManager.getConnection("jdbc:sqlite:" + file);
        var s = db.createStatement()) {
      s.execute("CREATE TABLE entry (id INTEGER PRIMARY KEY, amount INTEGER NOT NULL, note TEXT)");
      s.execute("CREATE INDEX entry_note ON entry (note)");
      s.execute(
          "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 2000) INSERT INTO entry SELECT i, i * 3, 'note ' || i FROM n");
    }
    byte[] bytes = Files.readAllBytes(file);
    return put(name, gzip ? "sqlite.gz" : "sqlite", gzip ? Tar.gzip(bytes) : bytes, null);
  }

  private DrillResult ask(
      Artifact artifact, String query, SqlCheck.Operator operator, String expected) {
    return runner.run(
        request(Method.DATABASE, List.of(new SqlCheck(query, operator, expected)), false, artifact),
        new Recorder());
  }

  @Test
  void aDatabaseThatAnswersIsRunning() throws Exception {
    for (boolean gzip : new boolean[] {false, true}) {
      DrillResult result = ask(
          database("pay.db", gzip), "SELECT count(*) FROM entry", SqlCheck.Operator.EQUALS, "2000");
      assertThat(result.sentence())
          .isEqualTo(
              "database opened, integrity check ok; SELECT count(*) FROM entry gave 2000, equal to 2000");
      assertThat(result.reaches()).isEqualTo(Rung.RUNNING);
      assertThat(sandboxes.present()).isEmpty();
    }
  }

  @Test
  void aDatabaseThatIsNotAskedIsOnlyRestored() throws Exception {
    DrillResult result = run(Method.DATABASE, database("pay.db", false));
    assertThat(result.reaches()).isEqualTo(Rung.RESTORED);
    assertThat(result.sentence()).endsWith("nothing was asked of it");
  }

  @Test
  void answersAreJudgedJustUnderAtAndOver() throws Exception {
    Artifact a = database("pay.db", false);
    assertThat(ask(a, "SELECT count(*) FROM entry", SqlCheck.Operator.AT_LEAST, "1999")
            .checks())
        .isEqualTo(ChecksState.PASSED);
    assertThat(ask(a, "SELECT count(*) FROM entry", SqlCheck.Operator.AT_LEAST, "2000")
            .checks())
        .isEqualTo(ChecksState.PASSED);
    DrillResult over = ask(a, "SELECT count(*) FROM entry", SqlCheck.Operator.AT_LEAST, "2001");
    assertThat(over.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(over.sentence())
        .isEqualTo("SELECT count(*) FROM entry gave 2000, at least 2001 was expected");
    assertThat(ask(a, "SELECT note FROM entry WHERE id = 9999", SqlCheck.Operator.EQUALS, "x")
            .sentence())
        .contains("gave nothing");
    assertThat(ask(a, "SELECT * FROM nowhere", SqlCheck.Operator.EQUALS, "x").sentence())
        .contains("could not be answered");
  }

  /** A job can be green over this: the file is whole, what is in it is not. */
  @Test
  void aDatabaseThatIsCorruptInsideIsDisprovedWhereverItLies() throws Exception {
    Artifact good = database("pay.db", false);
    byte[] bytes = Files.readAllBytes(storeFolder.resolve("pay.db"));
    java.util.Arrays.fill(bytes, 4096 * 3 + 100, 4096 * 3 + 1500, (byte) 0x5a);
    Artifact corrupt = put("pay.db", "sqlite", bytes, null);
    assertThat(good.sha256()).isNotEqualTo(corrupt.sha256());
    DrillResult result = ask(corrupt, "SELECT 1", SqlCheck.Operator.EQUALS, "1");
    assertThat(result.restore()).isEqualTo(RestoreState.DONE);
    assertThat(result.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(result.sentence())
        .startsWith("restored whole, but the database failed its own integrity check: ");
    assertThat(result.blamedPoint()).isEqualTo("point-pay.db");
    assertThat(result.blamedStore()).isNull();
  }

  @Test
  void whatIsNoDatabaseIsSaidToBeNone() throws Exception {
    DrillResult result = ask(
        put(
            "x.db",
            "sqlite",
            "hello, this is not a database file at all".repeat(30).getBytes(StandardCharsets.UTF_8),
            null),
        "SELECT 1",
        SqlCheck.Operator.EQUALS,
        "1");
    assertThat(result.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(result.sentence()).contains("the database");
  }

  @Test
  void aRestoredDatabaseCannotReachOutOrBeWritten() throws Exception {
    Artifact a = database("pay.db", false);
    DrillResult write = ask(
        a,
        "WITH x AS (SELECT 1) INSERT INTO entry SELECT 9999, 1, '' FROM x",
        SqlCheck.Operator.EQUALS,
        "1");
    assertThat(write.checks()).isEqualTo(ChecksState.FAILED);
    assertThatThrownBy(
            () -> new SqlCheck("ATTACH '/etc/passwd' AS p", SqlCheck.Operator.EQUALS, "1"))
        .hasMessage("the query must begin with SELECT or WITH");
    assertThatThrownBy(() -> new SqlCheck("SELECT 1", SqlCheck.Operator.AT_LEAST, "many"))
        .hasMessageContaining("not a number");
    assertThatThrownBy(() -> new SqlCheck("SELECT 1", SqlCheck.Operator.EQUALS, " "))
        .hasMessageContaining("needs a value");
  }

  @Test
  void onlyDatabaseFilesGoThroughTheDatabaseDrill() throws Exception {
    assertThat(run(Method.DATABASE, chain()).sentence())
        .startsWith("the point is a chain of 2 artifacts");
    assertThat(runner
            .run(request(Method.DATABASE, List.of(), false, chain()[0]), new Recorder())
            .sentence())
        .contains("reads sqlite and sqlite.gz");
  }

  /** Reading needs no space, whatever the size (common practice); a sparse file stands for a large one. */
  @Test
  void memoryStaysFlatOverALargeArtifact() throws IOException {
    long size = 512L << 20;
    try (RandomAccessFile file =
        new RandomAccessFile(storeFolder.resolve("large").toFile(), "rw")) {
      file.setLength(size);
    }
    Artifact large = new Artifact("p", "tar", "large", size, "0".repeat(64), null);
    System.gc();
    long before = Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory();
    DrillResult result = run(Method.READ_THROUGH, large);
    System.gc();
    long after = Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory();
    assertThat(result.bytes()).isEqualTo(size);
    assertThat(result.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(after - before).isLessThan(32L << 20);
  }

  @Test
  void theSandboxStaysInItsPlace() throws IOException {
    assertThatThrownBy(() -> sandboxes.open("../x")).isInstanceOf(IllegalArgumentException.class);
    Path outside = Files.createDirectory(temp.resolve("outside"));
    Files.writeString(outside.resolve("kept"), "k");
    Path sandbox = sandboxes.open("r1");
    Files.createSymbolicLink(sandbox.resolve("door"), outside);
    sandboxes.remove("r1");
    assertThat(outside.resolve("kept")).exists();
    assertThat(sandboxes.exists("r1")).isFalse();
  }

  @Test
  void aPlaceOutsideTheStoreIsNotRead() throws IOException {
    Files.writeString(temp.resolve("secret"), "s");
    Files.createSymbolicLink(storeFolder.resolve("door"), temp.resolve("secret"));
    FolderStore store = new FolderStore(storeFolder);
    assertThatThrownBy(() -> store.open("../secret"))
        .hasMessage("../secret lies outside its store");
    assertThatThrownBy(() -> store.open("door")).hasMessage("door lies outside its store");
    assertThatThrownBy(() -> store.size("absent")).hasMessage("absent is not on the store");
  }
}
