package hardproof.proving.archives;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.proving.Command;
import hardproof.proving.Tar;
import hardproof.proving.formats.NotReadHere;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LayerUnpackerTest {
  @TempDir
  Path temp;

  private Path root;
  private LayerUnpacker unpacker;

  @BeforeEach
  void makeRoot() throws IOException {
    root = Files.createDirectory(temp.resolve("sandbox"));
    unpacker = new LayerUnpacker(root, UnpackLimits.upTo(10_000_000, 2_000_000));
  }

  private void apply(Tar tar) throws IOException {
    byte[] bytes = tar.bytes();
    unpacker.apply(new ByteArrayInputStream(bytes));
  }

  private List<String> tree() throws IOException {
    try (Stream<Path> walk = Files.walk(root)) {
      return walk.filter(p -> !Files.isDirectory(p, LinkOption.NOFOLLOW_LINKS))
          .map(p -> root.relativize(p).toString())
          .sorted()
          .toList();
    }
  }

  private void assertOutsideUntouched() throws IOException {
    try (Stream<Path> list = Files.list(temp)) {
      assertThat(list).containsExactly(root);
    }
  }

  /** Examples of the OCI image specification, layer document, "Whiteouts" and "Opaque Whiteout". */
  @Test
  void whiteoutsDeleteFromLowerLayersOnly() throws IOException {
    apply(new Tar().folder("a/b/c").file("a/b/c/bar", "1").file("a/keep", "1"));
    apply(new Tar().folder("a").file("a/.wh..wh..opq", "").folder("a/b/c").file("a/b/c/foo", "2"));
    assertThat(tree()).containsExactly("a/b/c/foo");

    apply(new Tar().file("bin/my-app-tools", "3").file("bin/my-app-binary", "3"));
    apply(new Tar().file("bin/.wh.my-app-tools", ""));
    assertThat(tree()).containsExactly("a/b/c/foo", "bin/my-app-binary");
  }

  /** The specification: a layer's own entries stay, whatever their order beside the whiteout. */
  @Test
  void theOrderOfAnOpaqueWhiteoutInItsLayerDoesNotMatter() throws IOException {
    apply(new Tar().file("a/old", "1"));
    apply(new Tar().file("a/new", "2").file("a/.wh..wh..opq", ""));
    assertThat(tree()).containsExactly("a/new");
  }

  @Test
  void aFolderCanBeDeletedAndAFileBecomeAFolder() throws IOException {
    apply(new Tar().file("d/x", "1").file("d/y/z", "1").file("f", "1"));
    apply(new Tar().file(".wh.d", "").file("f/inside", "2"));
    assertThat(tree()).containsExactly("f/inside");
  }

  @Test
  void laterWins() throws IOException {
    apply(new Tar().file("x", "one"));
    apply(new Tar().file("x", "two"));
    assertThat(root.resolve("x")).hasContent("two");
  }

  @Test
  void pathsThatLeaveAreRefused() throws IOException {
    for (String name : List.of("../out", "a/../../out", "/../out", "a/..")) {
      assertThatThrownBy(() -> apply(new Tar().file(name, "x")))
          .as(name)
          .isInstanceOf(HostileArchive.class)
          .hasMessageContaining(name);
    }
    assertOutsideUntouched();
    assertThat(tree()).isEmpty();
  }

  /** As tar places them: a leading slash goes, and what is no slash is part of a name. */
  @Test
  void namesOfOtherSystemsAreNames() throws IOException {
    apply(new Tar()
        .raw("/abs")
        .raw("c:x")
        .raw("\\lead")
        .raw("..\\up")
        .raw("cr\rlf")
        .raw(".wh.x"));
    assertThat(tree()).containsExactlyInAnyOrder("..\\up", "abs", "c:x", "cr\rlf", "\\lead");
  }

  /** Ordinary system trees hold them; nothing of them is made, and nothing is reached through them. */
  @Test
  void linksOutwardsPipesAndDevicesAreKeptBesideTheTree() throws IOException {
    apply(new Tar()
        .link("abs", "/etc/passwd")
        .link("up", "../../etc")
        .link("in", "abs")
        .pipe("pipe")
        .device("dev"));
    assertThat(tree()).isEmpty();
    assertThat(unpacker.specials().values())
        .extracting(SpecialEntry::words)
        .containsExactly(
            "a link to /etc/passwd",
            "the character device 0,0",
            "a link to abs",
            "a pipe",
            "a link to ../../etc");
    assertThatThrownBy(() -> apply(new Tar().hardLink("h", "../x")))
        .isInstanceOf(HostileArchive.class);
    apply(new Tar().hardLink("same", "up"));
    assertThat(unpacker.specials().get("same").target()).isEqualTo("../../etc");
    assertOutsideUntouched();
  }

  @Test
  void nothingIsWrittenThroughALink() throws IOException {
    Path outside = Files.createDirectory(temp.resolve("outside"));
    Files.createSymbolicLink(root.resolve("door"), outside);
    assertThatThrownBy(() -> apply(new Tar().file("door/x", "x")))
        .isInstanceOf(HostileArchive.class)
        .hasMessageContaining("goes through the link door");
    for (String to : List.of(".", "/", "..", "nowhere")) {
      assertThatThrownBy(() -> apply(new Tar().file("safe", "x").link("in", to).file("in/y", "x")))
          .isInstanceOf(HostileArchive.class)
          .hasMessageContaining("goes through the link in");
    }
    Files.writeString(outside.resolve("secret"), "s");
    assertThatThrownBy(() -> apply(new Tar().hardLink("h", "door/secret")))
        .isInstanceOf(HostileArchive.class);
    try (Stream<Path> list = Files.list(outside)) {
      assertThat(list).containsExactly(outside.resolve("secret"));
    }
  }

  @Test
  void aFileReplacesALinkInsteadOfFollowingIt() throws IOException {
    apply(new Tar().file("target", "kept").link("name", "target"));
    apply(new Tar().file("name", "new"));
    assertThat(root.resolve("target")).hasContent("kept");
    assertThat(root.resolve("name")).hasContent("new");
    assertThat(unpacker.specials()).isEmpty();
  }

  @Test
  void bytesAreLimitedAtTheLimit() throws IOException {
    LayerUnpacker exact = new LayerUnpacker(root, UnpackLimits.upTo(100, 2_000_000));
    byte[] fits = new Tar().file("x", ones(100)).bytes();
    exact.apply(new ByteArrayInputStream(fits));
    assertThat(exact.bytes()).isEqualTo(100);
    LayerUnpacker over = new LayerUnpacker(root, UnpackLimits.upTo(100, 2_000_000));
    byte[] tooMuch = new Tar().file("x", ones(101)).bytes();
    assertThatThrownBy(() -> over.apply(new ByteArrayInputStream(tooMuch)))
        .isInstanceOf(NotReadHere.class)
        .hasMessageContaining("100 bytes");
  }

  @Test
  void entriesAreLimited() throws IOException {
    LayerUnpacker two = new LayerUnpacker(root, new UnpackLimits(1000, 2));
    byte[] three = new Tar().file("a", "").file("b", "").file("c", "").bytes();
    assertThatThrownBy(() -> two.apply(new ByteArrayInputStream(three)))
        .isInstanceOf(NotReadHere.class)
        .hasMessageContaining("a run may write 2 entries");
  }

  private static byte[] ones(int length) {
    byte[] ones = new byte[length];
    Arrays.fill(ones, (byte) 1);
    return ones;
  }

  /** Preallocated files are ordinary: they are restored with holes, and count for what they take. */
  @Test
  void aFileOfZerosIsRestoredAsAHole() throws Exception {
    byte[] packed =
        new Tar().file("zeros", new byte[90_000_000]).file("one", "1").gzip();
    LayerUnpacker small = new LayerUnpacker(root, UnpackLimits.upTo(1_000_000, 10));
    small.apply(new GZIPInputStream(new ByteArrayInputStream(packed)));
    assertThat(root.resolve("zeros")).hasSize(90_000_000);
    assertThat(small.bytes()).isLessThan(1_000_000);
    assertThat(Command.run(root, "du", "-k", "zeros").output().split("\t")[0])
        .satisfies(k -> assertThat(Integer.parseInt(k)).isLessThan(1000));
  }

  /** At every block: it is a fault, or, between entries, a doubt that only a manifest can settle. */
  @Test
  void aTarThatIsCutOffIsNoticedAtEveryBlock() throws IOException {
    byte[] whole = new Tar().file("a", "1").file("b", new byte[600]).bytes();
    int doubts = 0;
    for (int length = 512; length < 512 * 6; length += 512) {
      byte[] cut = Arrays.copyOf(whole, length);
      LayerUnpacker fresh = new LayerUnpacker(root, UnpackLimits.upTo(10_000, 2_000_000));
      try {
        fresh.apply(new ByteArrayInputStream(cut));
        assertThat(fresh.doubts())
            .as("cut at %d", length)
            .singleElement()
            .asString()
            .contains("it may be cut off");
        doubts++;
      } catch (BrokenArchive e) {
        assertThat(e).as("cut at %d", length).hasMessageContaining("cut off");
      }
    }
    assertThat(doubts).isEqualTo(2);
  }

  @Test
  void noiseIsNoTar() {
    byte[] noise = new byte[5000];
    new Random(3).nextBytes(noise);
    assertThatThrownBy(() -> unpacker.apply(new ByteArrayInputStream(noise)))
        .isInstanceOf(IOException.class);
  }

  /** Outside check: the same archive unpacked by GNU tar gives the same tree, modes included. */
  @Test
  void agreesWithGnuTar() throws Exception {
    Path source = Files.createDirectories(temp.resolve("source"));
    Random random = new Random(11);
    for (int i = 0; i < 40; i++) {
      Path file = source.resolve("folder " + i % 5 + "/" + "n".repeat(1 + i * 4) + ".ü");
      Files.createDirectories(file.getParent());
      byte[] content = new byte[random.nextInt(30_000)];
      random.nextBytes(content);
      Files.write(file, content);
    }
    Files.createSymbolicLink(source.resolve("link"), Path.of("folder 1"));
    assertThat(Command.run(source, "chmod", "750", "folder 2").exit()).isZero();
    Files.createLink(source.resolve("hard"), source.resolve("folder 0/n.ü"));
    Path archive = temp.resolve("a.tar");
    assertThat(Command.run(source, "tar", "--format=gnu", "-cf", archive.toString(), ".")
            .exit())
        .isZero();
    Path theirs = Files.createDirectory(temp.resolve("theirs"));
    assertThat(Command.run(theirs, "tar", "-xf", archive.toString()).exit()).isZero();

    try (var in = Files.newInputStream(archive)) {
      unpacker.apply(in);
    }
    // Ours makes no links: it keeps them in a list.
    Files.delete(theirs.resolve("link"));
    assertThat(unpacker.specials().get("link").target()).isEqualTo("folder 1");
    assertThat(
            Command.run(temp, "diff", "-r", "--no-dereference", theirs.toString(), root.toString())
                .output())
        .isEmpty();
  }
}
