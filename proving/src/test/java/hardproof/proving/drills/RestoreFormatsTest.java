package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.proving.Command;
import hardproof.proving.Tar;
import hardproof.proving.bags.BagWriter;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.checksums.BlockManifest;
import hardproof.proving.checksums.Sha256;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveOutputStream;
import org.apache.commons.compress.compressors.zstandard.ZstdCompressorOutputStream;
import org.junit.jupiter.api.Test;

/** Every format of an artifact, and every way in which one can be wrong. */
class RestoreFormatsTest extends WithStore {
  private static final String[] FILES = {"a", "one", "b/c", "two"};

  private static byte[] zip(String... namesAndContents) throws IOException {
    var out = new java.io.ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(out)) {
      for (int i = 0; i < namesAndContents.length; i += 2) {
        zip.putNextEntry(new ZipEntry(namesAndContents[i]));
        zip.write(namesAndContents[i + 1].getBytes(StandardCharsets.UTF_8));
      }
    }
    return out.toByteArray();
  }

  private static byte[] zstd(byte[] content) throws IOException {
    var out = new java.io.ByteArrayOutputStream();
    try (var zstd = new ZstdCompressorOutputStream(out)) {
      zstd.write(content);
    }
    return out.toByteArray();
  }

  private static byte[] tar() throws IOException {
    return new Tar().file("a", "one").file("b/c", "two").bytes();
  }

  private Artifact folder(String name, String format, String manifest, String... namesAndContents)
      throws IOException {
    Path folder = storeFolder.resolve(name);
    for (int i = 0; i < namesAndContents.length; i += 2) {
      Path file = folder.resolve(namesAndContents[i]);
      Files.createDirectories(file.getParent());
      Files.writeString(file, namesAndContents[i + 1]);
    }
    String sum = null;
    if (manifest != null) {
      Files.writeString(storeFolder.resolve(name + ".sha256"), manifest);
      sum = Sha256.of(manifest.getBytes(StandardCharsets.UTF_8));
    }
    return new Artifact("point-" + name, format, name, null, null, sum);
  }

  @Test
  void everyPackingIsRestoredAndReadThrough() throws IOException {
    List<Artifact> artifacts = List.of(
        put("t.tar", "tar", tar(), manifest(FILES)),
        put("t.tar.gz", "tgz", Tar.gzip(tar()), manifest(FILES)),
        put("t.tar.zst", "tar.zst", zstd(tar()), manifest(FILES)),
        put("t.zip", "zip", zip(FILES), manifest(FILES)),
        folder("tree", "folder", manifest(FILES), FILES));
    for (Artifact artifact : artifacts) {
      for (Method method : List.of(Method.FULL_RESTORE, Method.READ_THROUGH)) {
        DrillResult result =
            runner.run(request(method, List.of(), false, artifact), new Recorder());
        assertThat(result.checks())
            .as(artifact.place() + " by " + method + ": " + result.sentence())
            .isEqualTo(ChecksState.PASSED);
        assertThat(result.reaches()).isEqualTo(method.rung());
        assertThat(result.bytes()).isPositive();
      }
    }
    assertThat(sandboxes.present()).isEmpty();
  }

  /** Whiteouts work the same whatever a layer is packed in. */
  @Test
  void layersOfSeveralPackingsAreAppliedInOrder() throws IOException {
    Artifact full = put("full.tar.zst", "tar.zst", zstd(tar()), null);
    Artifact second = put("second.zip", "zip", zip(".wh.a", "", "d", "four"), null);
    Artifact third = folder(
        "third", "folder", manifest("d", "four", "b/e", "five"), "b/.wh.c", "", "b/e", "five");
    DrillResult result = run(Method.FULL_RESTORE, full, second, third);
    assertThat(result.sentence()).isEqualTo("restored whole: 2 files (8 B) equal to the manifest");
  }

  @Test
  void aZstdFileOfTheGeneralToolIsRead() throws Exception {
    assumeTrue(Command.there("zstd"), "zstd is not installed");
    Path tar = temp.resolve("made.tar");
    Files.write(tar, tar());
    Command.run(temp, "zstd", "-q", "-19", tar.toString());
    Artifact made = put(
        "g.tar.zst", "tar.zst", Files.readAllBytes(temp.resolve("made.tar.zst")), manifest(FILES));
    assertThat(run(Method.FULL_RESTORE, made).checks()).isEqualTo(ChecksState.PASSED);
  }

  private String failure(String name, String format, byte[] bytes) throws IOException {
    DrillResult result = runner.run(
        request(Method.FULL_RESTORE, List.of(), false, put(name, format, bytes, manifest(FILES))),
        new Recorder());
    assertThat(result.restore()).as(result.sentence()).isEqualTo(RestoreState.FAILED);
    assertThat(result.blamedPoint()).isEqualTo("point-" + name);
    assertThat(sandboxes.present()).isEmpty();
    return result.sentence();
  }

  /** What we lack says nothing of the data, and blames nothing. */
  private String lacking(String name, String format, byte[] bytes) throws IOException {
    DrillResult result = runner.run(
        request(Method.FULL_RESTORE, List.of(), false, put(name, format, bytes, manifest(FILES))),
        new Recorder());
    assertThat(result.restore()).as(result.sentence()).isEqualTo(RestoreState.INTERRUPTED);
    assertThat(result.checks()).isEqualTo(ChecksState.NOT_ASKED);
    assertThat(result.blamedPoint()).isNull();
    assertThat(sandboxes.present()).isEmpty();
    return result.sentence();
  }

  @Test
  void whatIsNotOfItsFormatIsSaidToBeSo() throws IOException {
    assertThat(failure("e.tar.gz", "tar.gz", new byte[0]))
        .isEqualTo("e.tar.gz can't be unpacked (it is empty)");
    assertThat(lacking("w.tar.gz", "tar.gz", zip(FILES)))
        .isEqualTo(
            "not judged: w.tar.gz: it is said to be tar.gz but begins like a zip file: correct the"
                + " field format of the copy; this says nothing about the data");
    assertThat(lacking("x.tar", "tar", Tar.gzip(tar()))).contains("but begins like a gzip file");
    assertThat(failure("n.zip", "zip", "plain text".getBytes(StandardCharsets.UTF_8)))
        .contains("no end record of a zip");
    for (String secret :
        List.of("Salted__x", "age-encryption.org/v1\n", "-----BEGIN PGP MESSAGE-----")) {
      assertThat(lacking("s.tar.gz", "tar.gz", secret.getBytes(StandardCharsets.UTF_8)))
          .contains("is encrypted (")
          .contains("and no key that fits is here");
    }
  }

  @Test
  void whatIsCutOffIsNoticedInEveryFormat() throws IOException {
    byte[][] whole = {tar(), Tar.gzip(tar()), zstd(tar()), zip(FILES)};
    String[] formats = {"tar", "tar.gz", "tar.zst", "zip"};
    for (int i = 0; i < whole.length; i++) {
      byte[] cut = Arrays.copyOf(whole[i], i == 0 ? 1536 : whole[i].length - 8);
      assertThat(failure("cut." + formats[i], formats[i], cut)).contains("can't be unpacked");
    }
  }

  /** Encrypted entries of a zip (APPNOTE 4.4.4, bit 0 of the flags). */
  @Test
  void anEncryptedEntryOfAZipIsNotTakenForDamage() throws IOException {
    byte[] zip = zip(FILES);
    zip[6] |= 1;
    int directory = new String(zip, StandardCharsets.ISO_8859_1).indexOf("PK\001\002");
    zip[directory + 8] |= 1;
    assertThat(lacking("z.zip", "zip", zip))
        .contains("z.zip: entry \"a\" is encrypted, and no key for it is known here");
  }

  @Test
  void hostileZipsLeaveNothing() throws IOException {
    assertThat(failure("h.zip", "zip", zip("../../owned", "x")))
        .isEqualTo("h.zip is refused: entry \"../../owned\" leaves the sandbox");
    assertThat(temp.resolve("owned")).doesNotExist();
  }

  @Test
  void aZipThatExplodesIsStopped() throws IOException {
    byte[] zip = zip("ones", "1".repeat(70 << 20));
    DrillRunner small = new DrillRunner(
        sandboxes, ENGINES, new DrillLimits(32 << 20, 1000, Duration.ofMinutes(1), 4));
    DrillResult result = small.run(
        request(
            Method.FULL_RESTORE, List.of(), false, put("bomb.zip", "zip", zip, manifest(FILES))),
        new Recorder());
    assertThat(result.sentence())
        .contains("entry \"ones\" goes over the 33554432 bytes that this run may write");
    assertThat(result.blamedPoint()).isNull();
    assertThat(sandboxes.present()).isEmpty();
  }

  @Test
  void aBagIsHeldToItsOwnManifests() throws IOException {
    Path zip = temp.resolve("bag.zip");
    BagWriter bag = new BagWriter("bag");
    bag.payload("data/a.txt", "one".getBytes(StandardCharsets.UTF_8));
    bag.payload("data/sub/b.txt", "two".getBytes(StandardCharsets.UTF_8));
    try (var out = Files.newOutputStream(zip)) {
      bag.write(out);
    }
    Artifact good = put("bag.zip", "bag.zip", Files.readAllBytes(zip), null);
    DrillResult result = run(Method.FULL_RESTORE, good);
    assertThat(result.sentence()).isEqualTo("restored whole: a valid bag of 2 files (6 B)");
  }

  @Test
  void aBagInAFolderIsReadThroughByItsManifest() throws IOException {
    String sums = manifest("data/a", "one");
    Artifact bag = folder(
        "bag",
        "bag",
        null,
        "bagit.txt",
        "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n",
        "manifest-sha256.txt",
        sums,
        "data/a",
        "one");
    assertThat(run(Method.READ_THROUGH, bag).reaches()).isEqualTo(Rung.INTACT);
    Files.writeString(storeFolder.resolve("bag/data/a"), "two");
    DrillResult changed =
        runner.run(request(Method.READ_THROUGH, List.of(), false, bag), new Recorder());
    assertThat(changed.sentence()).isEqualTo("bag is damaged: 1 file changed: data/a");
    DrillResult restored =
        runner.run(request(Method.FULL_RESTORE, List.of(), false, bag), new Recorder());
    assertThat(restored.sentence())
        .contains("data/a has been changed: its SHA-256 is not as in the manifest");
  }

  @Test
  void aFolderThatDiffersFromItsManifestNamesTheFiles() throws IOException {
    Artifact tree = folder("tree", "folder", manifest("a", "one", "gone", "x"), FILES);
    DrillResult result = run(Method.READ_THROUGH, tree);
    assertThat(result.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(result.sentence())
        .isEqualTo("tree is damaged: 1 file missing: gone; 1 file not in the manifest: b/c");
    Artifact bare = new Artifact("p", "folder", "tree", null, null, null);
    assertThat(runner
            .run(request(Method.READ_THROUGH, List.of(), false, bare), new Recorder())
            .sentence())
        .startsWith("no manifest was recorded for the folder tree");
  }

  @Test
  void damageIsLocatedToABlock() throws IOException {
    byte[] disk = new byte[20_000];
    Arrays.fill(disk, (byte) 7);
    BlockManifest blocks = BlockManifest.of(disk, 4096);
    Files.write(storeFolder.resolve("d.img"), disk);
    Files.write(storeFolder.resolve("d.img.blocks"), blocks.bytes());
    Artifact artifact =
        new Artifact("p", "img", "d.img", (long) disk.length, null, Sha256.of(blocks.bytes()));
    assertThat(run(Method.READ_THROUGH, artifact).sentence()).endsWith("as in its block manifest");
    assertThat(runner
            .run(request(Method.FULL_RESTORE, List.of(), false, artifact), new Recorder())
            .sentence())
        .isEqualTo(
            "brought back, and nobody opened it: one file, every block as in its block manifest");
    flip("d.img", 9000);
    for (Method method : List.of(Method.READ_THROUGH, Method.FULL_RESTORE)) {
      DrillResult result = runner.run(request(method, List.of(), false, artifact), new Recorder());
      assertThat(result.sentence())
          .contains("block 3 of 5 (bytes 8192 to 12287) differs; the other 4 are as recorded");
      assertThat(result.blamedStore()).isEqualTo("store");
    }
  }

  private static byte[] tarOf(String name, String content, int mode, Instant modified)
      throws IOException {
    var out = new java.io.ByteArrayOutputStream();
    try (var tar = new TarArchiveOutputStream(out)) {
      TarArchiveEntry entry = new TarArchiveEntry(name);
      entry.setSize(content.length());
      entry.setMode(mode);
      entry.setLastModifiedTime(FileTime.from(modified));
      tar.putArchiveEntry(entry);
      tar.write(content.getBytes(StandardCharsets.UTF_8));
      tar.closeArchiveEntry();
    }
    return out.toByteArray();
  }

  @Test
  void theAgeOfAFileIsCountedFromThePoint() throws IOException {
    byte[] tar = tarOf("a", "one", 0644, DATA_TIME.minusSeconds(3600));
    Artifact a = put("old.tar", "tar", tar, manifest("a", "one"));
    assertThat(ask(Method.FULL_RESTORE, a, new Check(CheckType.FILE_NEWER, "a", "60m"))
            .checks())
        .isEqualTo(ChecksState.PASSED);
    assertThat(ask(Method.FULL_RESTORE, a, new Check(CheckType.FILE_NEWER, "a", "59m"))
            .sentence())
        .isEqualTo("a was modified 1 h before the point, 59 m allowed");
  }

  /** A tar of mode and time zero tells neither; a file of the time of its restore would always be young. */
  @Test
  void aFileWhoseTimeIsNotToldIsNotJudgedYoung() throws IOException {
    Check young = new Check(CheckType.FILE_NEWER, "a", "60m");
    Artifact untold =
        put("u.tar", "tar", tarOf("a", "one", 0644, Instant.EPOCH), manifest("a", "one"));
    DrillResult result = ask(Method.FULL_RESTORE, untold, young);
    assertThat(result.checks()).isNotIn(ChecksState.PASSED, ChecksState.FAILED);
    assertThat(result.sentence())
        .startsWith("not judged: the backup does not tell when a was modified, so");
    DrillRequest r = request(Method.FULL_RESTORE, List.of(young), false, untold);
    DrillRequest undated = new DrillRequest(
        r.run(),
        new DrillRequest.Of(r.resource(), r.point(), null),
        new DrillRequest.From(r.storeKey(), r.storeName(), r.store()),
        r.method(),
        r.chain(),
        r.checks(),
        r.hold(),
        r.options(),
        r.before(),
        r.accepted());
    assertThat(runner.run(undated, new Recorder()).sentence())
        .startsWith("not judged: the data time of the point is not known, so");
    // What another check shows weighs more.
    assertThat(ask(Method.FULL_RESTORE, untold, young, new Check(CheckType.FILE_EXISTS, "b", null))
            .checks())
        .isEqualTo(ChecksState.FAILED);
  }

  @Test
  void aFolderTellsTheTimesOfItsFiles() throws IOException {
    Artifact artifact = folder("f", "folder", manifest("a", "one"), "a", "one");
    Path file = storeFolder.resolve("f/a");
    Files.setLastModifiedTime(file, FileTime.from(DATA_TIME.minusSeconds(3600)));
    assertThat(ask(Method.FULL_RESTORE, artifact, new Check(CheckType.FILE_NEWER, "a", "60m"))
            .checks())
        .isEqualTo(ChecksState.PASSED);
    assertThat(ask(Method.FULL_RESTORE, artifact, new Check(CheckType.FILE_NEWER, "a", "59m"))
            .checks())
        .isEqualTo(ChecksState.FAILED);
  }

  /** The same resource may be drilled by a method that asks its database, and by one that does not. */
  @Test
  void thatADatabaseIsEmptyIsNotAskedOfItsFile() throws IOException {
    Artifact file = put("e.sql", "sql", "BEGIN; COMMIT;\n".getBytes(StandardCharsets.UTF_8), null);
    DrillResult result = ask(Method.FULL_RESTORE, file, new Check(CheckType.EMPTY, "new", null));
    assertThat(result.checks()).as(result.sentence()).isEqualTo(ChecksState.PASSED);
    assertThat(result.sentence())
        .endsWith("whether it is empty was not asked, since nobody opened it");
    assertThat(result.reaches()).isEqualTo(Rung.INTACT);
  }

  @Test
  void attributesAreComparedWhereTheManifestTellsThem() throws IOException {
    long modified = 1_764_000_000L;
    byte[] tar = tarOf("a", "one", 0640, Instant.ofEpochSecond(modified));
    String sum = Sha256.of("one".getBytes(StandardCharsets.UTF_8));
    // As bsdtar --format=mtree writes it.
    for (String line : List.of(
        "./a time=" + modified + ".0 mode=640 type=file size=3 sha256digest=" + sum,
        "./a time=" + (modified + 60) + ".0 mode=600 type=file size=3 sha256digest=" + sum)) {
      String mtree = "#mtree\n/set type=file\n. type=dir\n" + line + "\n";
      Files.write(storeFolder.resolve("m.tar"), tar);
      Files.writeString(storeFolder.resolve("m.tar.mtree"), mtree);
      Artifact artifact = new Artifact(
          "p", "tar", "m.tar", null, null, Sha256.of(mtree.getBytes(StandardCharsets.UTF_8)));
      DrillResult result =
          runner.run(request(Method.FULL_RESTORE, List.of(), false, artifact), new Recorder());
      if (line.contains("mode=640")) {
        assertThat(result.sentence()).endsWith("1 file (3 B) equal to the manifest");
      } else {
        assertThat(result.sentence())
            .isEqualTo("restored, but 1 file with other attributes: a: mode 640, not 600");
      }
    }
  }

  /** A marker is found in a file of any size, also where two pieces of it meet. */
  @Test
  void aMarkerIsFoundWhereverItStands() throws IOException {
    int piece = 1 << 20;
    String large = "x".repeat(piece - 3) + "MARKER" + "y".repeat(piece);
    Artifact a = put("m.tar", "tar", new Tar().file("big", large).bytes(), manifest("big", large));
    Check there = new Check(CheckType.MARKER_THERE, "big", "MARKER");
    assertThat(ask(Method.FULL_RESTORE, a, there).checks()).isEqualTo(ChecksState.PASSED);
    Check absent = new Check(CheckType.MARKER_ABSENT, "big", "MARKERS");
    assertThat(ask(Method.FULL_RESTORE, a, absent).checks()).isEqualTo(ChecksState.PASSED);
  }

  @Test
  void filesAreAskedAfterTheyWereRestored() throws IOException {
    Artifact a = put("t.tar", "tar", tar(), manifest(FILES));
    Check[] good = {
      Check.of(CheckType.FILE_EXISTS, "b/c"),
      new Check(CheckType.FILE_EQUALS, "a", Sha256.of("one".getBytes(StandardCharsets.UTF_8))),
      new Check(CheckType.FILES_AT_LEAST, "**", "2"),
      new Check(CheckType.MARKER_THERE, "a", "one"),
      new Check(CheckType.MARKER_ABSENT, "a", "two"),
      new Check(CheckType.MARKER_ABSENT, "tomorrow", "x")
    };
    assertThat(ask(Method.FULL_RESTORE, a, good).checks()).isEqualTo(ChecksState.PASSED);
    assertThat(
            ask(Method.FULL_RESTORE, a, Check.of(CheckType.FILE_EXISTS, "gone")).sentence())
        .isEqualTo("gone is not there");
    assertThat(ask(Method.FULL_RESTORE, a, Check.of(CheckType.FILE_EXISTS, "../../x"))
            .checks())
        .isEqualTo(ChecksState.FAILED);
    assertThat(ask(Method.FULL_RESTORE, a, new Check(CheckType.FILES_AT_LEAST, "*", "2"))
            .sentence())
        .isEqualTo("1 file matches *, at least 2 expected");
    DrillResult wrong =
        ask(Method.FULL_RESTORE, a, new Check(CheckType.QUERY_EQUALS, "SELECT 1", "1"));
    assertThat(wrong.restore()).isEqualTo(RestoreState.REFUSED);
    assertThat(wrong.sentence()).startsWith("a check can't be asked after a drill by full restore");
  }
}
