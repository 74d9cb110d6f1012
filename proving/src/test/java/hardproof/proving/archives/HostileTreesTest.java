package hardproof.proving.archives;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.proving.Tar;
import hardproof.proving.sandboxes.Sandboxes;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Archives made to reach outside: those that once did, and ten thousand that chance made. */
class HostileTreesTest {
  private static final long SEED = 20261127;
  private static final int TREES = 10_000;

  @TempDir
  Path temp;

  private Path sandbox;
  private Path root;

  /** Beside and above the root lies what no archive may touch, under names that the archives use, too. */
  @BeforeEach
  void makeSurroundings() throws IOException {
    sandbox = Files.createDirectories(temp.resolve("data/sandboxes/run"));
    for (Path folder : List.of(temp, temp.resolve("data"), sandbox.getParent(), sandbox)) {
      for (String name : List.of("a", "b", "volumes")) {
        Files.createDirectories(folder.resolve(name));
        Files.writeString(folder.resolve(name).resolve("b"), "kept in " + folder + name);
      }
      Files.writeString(folder.resolve("file"), "kept in " + folder);
    }
    root = Files.createDirectory(sandbox.resolve("restored"));
  }

  /** Everything outside of the root, byte for byte. */
  private Map<String, String> outside() throws IOException {
    Map<String, String> all = new TreeMap<>();
    try (Stream<Path> walk = Files.walk(temp)) {
      for (Path path : walk.filter(p -> !p.startsWith(root)).toList()) {
        all.put(
            path.toString(),
            Files.isSymbolicLink(path)
                ? "link to " + Files.readSymbolicLink(path)
                : Files.isDirectory(path)
                    ? "folder " + Files.getPosixFilePermissions(path)
                    : Files.readString(path));
      }
    }
    return all;
  }

  private static void apply(LayerUnpacker unpacker, byte[] tar) throws IOException {
    unpacker.apply(new ByteArrayInputStream(tar));
  }

  private LayerUnpacker unpacker() {
    return new LayerUnpacker(root, UnpackLimits.upTo(1_000_000, 10_000));
  }

  /** By text {@code way/..} is the folder of the tree; by the system it is what lies above the root. */
  @Test
  void linksThatLeadOutTogetherAreWrittenThroughByNobody() throws IOException {
    Map<String, String> before = outside();
    LayerUnpacker layers = unpacker();
    apply(
        layers,
        new Tar().folder("d").link("d/way", "..").link("volumes", "d/way/..").bytes());
    assertThat(new LinkTarget(layers.specials()).of("volumes")).isNull();
    assertThatThrownBy(() -> apply(layers, new Tar().file("volumes/x", "1").bytes()))
        .isInstanceOf(HostileArchive.class)
        .hasMessageContaining("goes through the link volumes");
    assertThat(outside()).isEqualTo(before);
  }

  @Test
  void linksInCirclesAndToNothingAreNoEscape() throws IOException {
    LayerUnpacker layers = unpacker();
    apply(
        layers, new Tar().link("a", "b").link("b", "a").link("c", "not/there/x").bytes());
    LinkTarget target = new LinkTarget(layers.specials());
    assertThat(target.of("a")).isNull();
    assertThat(target.of("c")).isEqualTo("not/there/x");
  }

  @Test
  void aWhiteoutOfNoNameTakesNothingAway() throws IOException {
    Map<String, String> before = outside();
    for (String name : List.of(".wh...", ".wh..", ".wh.", "x/.wh...", "x/y/.wh...")) {
      LayerUnpacker layers = unpacker();
      apply(layers, new Tar().file("x/y/kept", "1").bytes());
      assertThatThrownBy(() -> apply(layers, new Tar().file(name, "").bytes()))
          .as(name)
          .isInstanceOf(HostileArchive.class)
          .hasMessageContaining("no name of a file");
      assertThat(root.resolve("x/y/kept")).hasContent("1");
    }
    assertThat(outside()).isEqualTo(before);
  }

  @Test
  void aFolderIsNotEnteredThroughALink() throws IOException {
    Path elsewhere = Files.createDirectory(sandbox.resolve("elsewhere"));
    for (Path to : List.of(elsewhere, Path.of("inside"))) {
      Files.createDirectories(root.resolve("inside"));
      Files.deleteIfExists(root.resolve("volumes"));
      Files.createSymbolicLink(root.resolve("volumes"), to);
      for (String folder : List.of("volumes", "volumes/data", "volumes/data/deep")) {
        assertThatThrownBy(() -> LayerUnpacker.below(root, folder, UnpackLimits.upTo(1_000, 100)))
            .as(folder)
            .isInstanceOf(HostileArchive.class)
            .hasMessageContaining("goes through the link volumes");
      }
    }
    assertThat(elsewhere).isEmptyDirectory();
    assertThat(root.resolve("inside")).isEmptyDirectory();
    assertThatThrownBy(() -> LayerUnpacker.below(root, "../x", UnpackLimits.upTo(1_000, 100)))
        .isInstanceOf(HostileArchive.class);
  }

  /** Links, hard links, dots and whiteouts in every order; whatever comes of it, nothing outside changes. */
  @Test
  void tenThousandTreesMadeByChanceChangeNothingOutside() throws IOException {
    Map<String, String> before = outside();
    int whole = 0;
    int refused = 0;
    for (int i = 0; i < TREES; i++) {
      Random random = new Random(SEED + i);
      try {
        unpackSome(random);
        whole++;
        assertNoLinkWasMade("tree " + i);
      } catch (HostileArchive | BrokenArchive e) {
        refused++;
      }
      Sandboxes.removeTree(root);
      assertThat(outside()).as("tree %d of seed %d, or its clean-up", i, SEED).isEqualTo(before);
      Files.createDirectory(root);
    }
    // Both must come often, or nothing was tried.
    assertThat(whole).isGreaterThan(500);
    assertThat(refused).isGreaterThan(500);
  }

  private void unpackSome(Random random) throws IOException {
    LayerUnpacker layers = unpacker();
    for (int layer = 0; layer <= random.nextInt(3); layer++) {
      apply(layers, layer(random));
    }
    if (random.nextInt(3) == 0) {
      LayerUnpacker volume = LayerUnpacker.below(
          root, "volumes/" + (random.nextBoolean() ? "a" : "b"), UnpackLimits.upTo(1_000, 100));
      apply(volume, layer(random));
    }
  }

  private byte[] layer(Random random) throws IOException {
    Tar tar = new Tar();
    for (int entry = 0; entry <= random.nextInt(6); entry++) {
      String name = name(random);
      switch (random.nextInt(9)) {
        case 0, 1 -> tar.file(name, "written by an archive");
        case 2 -> tar.folder(name);
        case 3, 4, 5 -> tar.link(name, target(random));
        case 6 -> tar.hardLink(name, name(random));
        default -> tar.file(name + "/" + whiteout(random), "");
      }
    }
    return tar.bytes();
  }

  private static String name(Random random) {
    List<String> parts = new ArrayList<>();
    for (int i = 0; i <= random.nextInt(3); i++) {
      String[] usual = {"a", "b", "volumes", "a", "b", "file"};
      parts.add(
          random.nextInt(40) == 0
              ? random.nextBoolean() ? ".." : "."
              : usual[random.nextInt(usual.length)]);
    }
    return String.join("/", parts);
  }

  private String target(Random random) {
    if (random.nextInt(40) == 0) {
      return sandbox.resolve("a").toString();
    }
    List<String> parts = new ArrayList<>();
    for (int i = 0; i <= random.nextInt(4); i++) {
      String[] usual = {"..", "a", "b", "volumes", "..", "."};
      parts.add(usual[random.nextInt(usual.length)]);
    }
    return String.join("/", parts);
  }

  private static String whiteout(Random random) {
    String[] all = {".wh.a", ".wh.b", ".wh.volumes", ".wh..wh..opq", ".wh.file"};
    return random.nextInt(30) == 0 ? ".wh..." : all[random.nextInt(all.length)];
  }

  private void assertNoLinkWasMade(String tree) throws IOException {
    try (Stream<Path> walk = Files.walk(root)) {
      assertThat(walk.filter(Files::isSymbolicLink)).as(tree).isEmpty();
    }
    assertThat(Files.isDirectory(root, LinkOption.NOFOLLOW_LINKS)).isTrue();
  }
}
