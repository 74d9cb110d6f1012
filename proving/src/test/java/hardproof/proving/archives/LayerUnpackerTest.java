package hardproof.proving.archives;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.proving.Command;
import hardproof.proving.Tar;
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
    unpacker.apply(new ByteArrayInputStream(bytes), () -> bytes.length);
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
    for (String name :
        List.of("../out", "a/../../out", "/abs", "C:\\out", "..\\out", "a\\..\\..\\out")) {
      assertThatThrownBy(() -> apply(new Tar().file(name, "x")))
          .as(name)
          .isInstanceOf(HostileArchive.class)
          .hasMessageContaining(name);
    }
    assertOutsideUntouched();
    assertThat(tree()).isEmpty();
  }

  @Test
  void linksThatPointOutsideAreRefused() throws IOException {
    for (String to : List.of("/etc/passwd", "../../etc", "..")) {
      assertThatThrownBy(() -> apply(new Tar().link("l", to)))
          .as(to)
          .isInstanceOf(HostileArchive.class)
          .hasMessageContaining("points outside");
    }
    assertThatThrownBy(() -> apply(new Tar().hardLink("h", "../x")))
        .isInstanceOf(HostileArchive.class);
    assertOutsideUntouched();
  }

  @Test
  void nothingIsWrittenThroughALink() throws IOException {
    Path outside = Files.createDirectory(temp.resolve("outside"));
    Files.createSymbolicLink(root.resolve("door"), outside);
    assertThatThrownBy(() -> apply(new Tar().file("door/x", "x")))
        .isInstanceOf(HostileArchive.class)
        .hasMessageContaining("goes through the link door");
    assertThatThrownBy(() -> apply(new Tar().file("safe", "x").link("in", ".").file("in/y", "x")))
        .isInstanceOf(HostileArchive.class);
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
    assertThat(Files.isSymbolicLink(root.resolve("name"))).isFalse();
  }

  @Test
  void devicesAndPipesAreRefused() {
    assertThatThrownBy(() -> apply(new Tar().device("dev")))
        .isInstanceOf(HostileArchive.class)
        .hasMessageContaining("device");
    assertThatThrownBy(() -> apply(new Tar().pipe("pipe"))).isInstanceOf(HostileArchive.class);
  }

  @Test
  void bytesAreLimitedAtTheLimit() throws IOException {
    LayerUnpacker exact = new LayerUnpacker(root, UnpackLimits.upTo(100, 2_000_000));
    byte[] fits = new Tar().file("x", new byte[100]).bytes();
    exact.apply(new ByteArrayInputStream(fits), () -> fits.length);
    assertThat(exact.bytes()).isEqualTo(100);
    LayerUnpacker over = new LayerUnpacker(root, UnpackLimits.upTo(100, 2_000_000));
    byte[] tooMuch = new Tar().file("x", new byte[101]).bytes();
    assertThatThrownBy(() -> over.apply(new ByteArrayInputStream(tooMuch), () -> tooMuch.length))
        .isInstanceOf(HostileArchive.class)
        .hasMessageContaining("100 bytes");
  }

  @Test
  void entriesAreLimited() throws IOException {
    LayerUnpacker two = new LayerUnpacker(root, new UnpackLimits(1000, 2, 250));
    byte[] three = new Tar().file("a", "").file("b", "").file("c", "").bytes();
    assertThatThrownBy(() -> two.apply(new ByteArrayInputStream(three), () -> 1))
        .isInstanceOf(HostileArchive.class)
        .hasMessageContaining("more than 2 entries");
  }

  @Test
  void aBombOfZerosIsRefusedByItsRatio() throws IOException {
    byte[] bomb = new Tar().file("zeros", new byte[90_000_000]).gzip();
    LayerUnpacker wide = new LayerUnpacker(root, UnpackLimits.upTo(1L << 40, 2_000_000));
    assertThatThrownBy(() ->
            wide.apply(new GZIPInputStream(new ByteArrayInputStream(bomb)), () -> bomb.length))
        .isInstanceOf(HostileArchive.class)
        .hasMessageContaining("more than 250 times its size");
  }

  @Test
  void aTarThatIsCutOffIsNoticedAtEveryBlock() throws IOException {
    byte[] whole = new Tar().file("a", "1").file("b", new byte[600]).bytes();
    for (int length = 512; length < 512 * 6; length += 512) {
      byte[] cut = Arrays.copyOf(whole, length);
      LayerUnpacker fresh = new LayerUnpacker(root, UnpackLimits.upTo(10_000, 2_000_000));
      assertThatThrownBy(() -> fresh.apply(new ByteArrayInputStream(cut), () -> cut.length))
          .as("cut at %d", length)
          .isInstanceOf(IOException.class);
    }
  }

  @Test
  void noiseIsNoTar() {
    byte[] noise = new byte[5000];
    new Random(3).nextBytes(noise);
    assertThatThrownBy(() -> unpacker.apply(new ByteArrayInputStream(noise), () -> 5000))
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
      unpacker.apply(in, () -> 1_000_000);
    }
    assertThat(
            Command.run(temp, "diff", "-r", "--no-dereference", theirs.toString(), root.toString())
                .output())
        .isEmpty();
  }
}
