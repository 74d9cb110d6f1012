package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.proving.Tar;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.proving.stores.FolderStore;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

class DrillRunnerTest extends WithStore {
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

  /** First seen, then unchanged, then changed: it proves "unchanged since", not "right". */
  @Test
  void whatCameWithoutAChecksumIsComparedWithItsFirstReading() throws IOException {
    Artifact bare = new Artifact("p", "tar.gz", chain()[0].place(), null, null, null);
    DrillResult first = run(Method.READ_THROUGH, bare);
    assertThat(first.checks()).isEqualTo(ChecksState.PASSED);
    assertThat(first.reaches()).isEqualTo(Rung.HELD);
    assertThat(first.sentence()).contains("nothing was recorded to compare with");
    Baseline made = first.baselines().get(0);

    Baseline kept = new Baseline(made.point(), made.place(), DATA_TIME, made.blocks());
    DrillResult again =
        runner.run(request(Method.READ_THROUGH, List.of(), false, bare.with(kept)), new Recorder());
    assertThat(again.reaches()).isEqualTo(Rung.INTACT);
    assertThat(again.sentence()).endsWith("as in what was first read on 2026-11-24");
    assertThat(again.baselines()).isEmpty();

    flip("full.tar.gz", 40);
    DrillResult changed =
        runner.run(request(Method.READ_THROUGH, List.of(), false, bare.with(kept)), new Recorder());
    assertThat(changed.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(changed.sentence()).contains("block 1 of 1");
    assertThat(changed.blamedStore()).isEqualTo("store");
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
        new DrillRequest.Of("r", "p", DATA_TIME),
        new DrillRequest.From("s", "HOLM DISK", new FolderStore(temp.resolve("unmounted"))),
        Method.READ_THROUGH,
        List.of(chain),
        List.of(),
        false,
        DrillOptions.usual(),
        null,
        List.of());
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
            "a.rar is of format rar; this drill reads one file. Choose full restore or read-through instead.");
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
    DrillPlan plan = new DrillRunner(none, ENGINES, DrillLimits.usual())
        .plan(request(Method.FULL_RESTORE, List.of(), false, chain));
    assertThat(plan.refusal())
        .contains("has 0 B free")
        .contains("Choose read-through, which needs no space");
    assertThat(plan.spaceBytes()).isGreaterThan(5000);
    assertThat(new DrillRunner(none, ENGINES, DrillLimits.usual())
            .plan(request(Method.READ_THROUGH, List.of(), false, chain))
            .refusal())
        .isNull();
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
    // Half of it: other classes of tests are at work in the same memory.
    assertThat(after - before).isLessThan(size / 2);
  }

  /** Safety rules of a run: each of them refused or ended, with what to do. */
  @Test
  void nothingIsRestoredWhereProductionIs() throws IOException {
    Artifact[] chain = chain();
    Files.createFile(temp.resolve(Sandboxes.PRODUCTION));
    DrillResult result = run(Method.FULL_RESTORE, chain);
    assertThat(result.restore()).isEqualTo(RestoreState.REFUSED);
    assertThat(result.sentence()).startsWith("the sandbox folder is marked as production");
    assertThat(sandboxes.root()).isEmptyDirectory();
    assertThatThrownBy(() -> sandboxes.open("r2")).hasMessageContaining("production");
    assertThat(runner
            .run(request(Method.READ_THROUGH, List.of(), false, chain), new Recorder())
            .checks())
        .as("reading writes nothing")
        .isEqualTo(ChecksState.PASSED);
  }

  private DrillResult limited(DrillLimits limits) throws IOException {
    return new DrillRunner(sandboxes, ENGINES, limits)
        .run(request(Method.FULL_RESTORE, List.of(), false, chain()), new Recorder());
  }

  @Test
  void aRunTakesNoMoreThanItsLimits() throws IOException {
    Duration hour = Duration.ofHours(1);
    assertThat(limited(new DrillLimits(1 << 20, 6, hour, 1)).checks())
        .isEqualTo(ChecksState.PASSED);
    assertThat(limited(new DrillLimits(1 << 20, 4, hour, 1)).sentence())
        .contains("is one too many: a run may write 4 entries");
    assertThat(limited(new DrillLimits(100, 6, hour, 1)).sentence()).contains("short");
    assertThat(limited(new DrillLimits(1 << 20, 6, Duration.ZERO, 1)).sentence())
        .startsWith("ended: it took longer than the 0 s that a run may take");
    sandboxes.open("held-one");
    DrillResult full = limited(new DrillLimits(1 << 20, 6, hour, 1));
    assertThat(full.restore()).isEqualTo(RestoreState.REFUSED);
    assertThat(full.sentence()).startsWith("1 sandbox is in use, and 1 may be at once");
  }

  @Test
  void whatEarlierDrillsHoldCountsAsRoomWhereItIsShort() throws IOException {
    DrillRunner full = new DrillRunner(
        new Sandboxes(temp.resolve("sandboxes"), Long.MAX_VALUE), ENGINES, DrillLimits.usual());
    DrillRequest request = request(Method.FULL_RESTORE, List.of(), false, chain());
    DrillPlan tight = full.plan(request);
    assertThat(tight.refusal()).contains("and has 0 B free: ");
    long needs = tight.spaceBytes();
    DrillPlan room = full.plan(request, () -> needs);
    assertThat(room.refusal()).isNull();
    assertThat(room.freeBytes()).isEqualTo(needs);
    assertThat(room.notes()).anyMatch(n -> n.contains("space that earlier drills hold"));
    assertThat(full.plan(request, () -> needs - 1).refusal()).contains(": 1 B short. ");
    DrillPlan ample = runner.plan(request, () -> {
      throw new AssertionError("what is held is not asked for where there is space");
    });
    assertThat(ample.notes()).noneMatch(n -> n.contains("earlier drills"));
  }

  @Test
  void aStoreThatGoesAwayWhileItIsReadIsOurTrouble() throws IOException {
    Artifact[] chain = chain();
    Recorder away = new Recorder() {
      @Override
      public void started(int step, long totalBytes) {
        super.started(step, totalBytes);
        if (step == 1) {
          storeFolder.toFile().renameTo(temp.resolve("unplugged").toFile());
        }
      }
    };
    DrillResult result = runner.run(request(Method.FULL_RESTORE, List.of(), false, chain), away);
    assertThat(result.restore()).isEqualTo(RestoreState.INTERRUPTED);
    assertThat(result.sentence()).startsWith("SKERRY DISK can't be reached any more");
    assertThat(result.blamedPoint()).isNull();
    assertThat(sandboxes.present()).isEmpty();
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
        .hasMessage("../secret lies outside its store, and is not read");
    assertThatThrownBy(() -> store.open("door"))
        .hasMessage("door lies outside its store, and is not read");
    assertThatThrownBy(() -> store.size("absent")).hasMessage("absent is not on the store");
  }

  /** Nobody has looked at it, so nothing is said about the data: a link may be there for a good reason. */
  @Test
  void whatMayNotBeReadIsNotBlamed() throws IOException {
    Files.writeString(temp.resolve("secret"), "root:$6$hash");
    Files.createSymbolicLink(storeFolder.resolve("door.tar"), temp.resolve("secret"));
    for (Method method : List.of(Method.PRESENCE, Method.READ_THROUGH, Method.FULL_RESTORE)) {
      DrillResult result = runner.run(
          request(
              method,
              List.of(),
              false,
              new Artifact("p", "tar", "door.tar", 12L, "0".repeat(64), "0".repeat(64))),
          new Recorder());
      assertThat(result.restore()).as(method.code()).isEqualTo(RestoreState.INTERRUPTED);
      assertThat(result.blamedPoint()).isNull();
      assertThat(result.sentence())
          .contains("lies outside its store", "says nothing about the data")
          .doesNotContain("root", "hash");
    }
  }

  /** A list of checksums knows nothing of links: that none changed since can be shown all the same. */
  @Test
  void linksAreHeldToThoseThatWereFirstSeen() throws IOException {
    Artifact first = put(
        "l.tar",
        "tar",
        new Tar().file("a", "one").link("now", "a").pipe("p").bytes(),
        manifest("a", "one"));
    DrillResult seen = run(Method.FULL_RESTORE, first);
    assertThat(seen.sentence())
        .endsWith(
            "2 links and devices are there that a list of checksums does not vouch for, kept for"
                + " the next time");
    Baseline made = seen.baselines().get(0);
    Baseline kept = new Baseline(made.point(), made.place(), DATA_TIME, made.blocks());
    assertThat(ask(Method.FULL_RESTORE, first.withLinks(kept)).sentence())
        .endsWith(", as first seen on 2026-11-24");
    Artifact other = put(
        "l.tar",
        "tar",
        new Tar().file("a", "one").link("now", "/etc/shadow").pipe("p").bytes(),
        manifest("a", "one"));
    DrillResult changed = ask(Method.FULL_RESTORE, other.withLinks(kept));
    assertThat(changed.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(changed.sentence())
        .endsWith("its links are not those that were first seen on 2026-11-24");
  }
}
