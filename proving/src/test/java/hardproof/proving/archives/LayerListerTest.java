package hardproof.proving.archives;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.proving.Tar;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is listed without unpacking is what an unpacking leaves. */
class LayerListerTest {
  @TempDir
  Path temp;

  private final LayerLister lister = new LayerLister(true);

  private static ArchiveEntries in(Tar tar) throws IOException {
    return new TarEntries(new ByteArrayInputStream(tar.bytes()));
  }

  private List<String> paths() {
    return lister.entries().stream().map(Listed::path).toList();
  }

  @Test
  void eachEntryIsOfTheLastLayerThatPutIt() throws IOException {
    lister.apply(in(new Tar().file("./a", "one").file("b/c", "two").link("l", "a")), "first");
    lister.apply(in(new Tar().file("a", "changed").file("b/d", "")), "second");
    assertThat(lister.entries())
        .extracting(Listed::path, Listed::type, Listed::sizeBytes, Listed::layer)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple("a", "file", 7L, "second"),
            org.assertj.core.groups.Tuple.tuple("b/c", "file", 3L, "first"),
            org.assertj.core.groups.Tuple.tuple("b/d", "file", 0L, "second"),
            org.assertj.core.groups.Tuple.tuple("l", "link", null, "first"));
  }

  /** Whiteouts work the same whatever a layer is packed in. */
  @Test
  void zipsAndFoldersAreLayersToo() throws IOException {
    lister.folder(List.of("a", "b/c", "b/d"), "folder");
    Path zip = temp.resolve("x.zip");
    try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(zip))) {
      out.putNextEntry(new ZipEntry("b/"));
      out.putNextEntry(new ZipEntry("b/.wh.c"));
      out.putNextEntry(new ZipEntry("e"));
      out.write("five".getBytes(StandardCharsets.US_ASCII));
    }
    try (ArchiveEntries entries = ZipEntries.open(zip)) {
      lister.apply(entries, "zip");
    }
    assertThat(paths()).containsExactly("a", "b/d", "e");
    lister.folder(List.of(".wh..wh..opq", "z"), "folder");
    assertThat(paths()).containsExactly("z");
  }

  /** Two folders change their names, as GNU tar 1.34 writes it; links and names that only begin alike stay. */
  @Test
  void foldersOfAnIncrementalTarAreRenamed() throws IOException {
    byte[] full = new Tar()
        .file("./a/1", "one")
        .file("./a/deep/2", "two")
        .link("./a/link", "1")
        .file("./b/3", "three")
        .file("./a0", "beside")
        .file("./gone", "")
        .bytes();
    byte[] incremental = new Tar()
        .dumped(".", "Da|Db|Na0|X.|R./a|T|R./b|T./a|R|T./b||")
        .dumped("./a", "N3|Ynew|")
        .dumped("./b", "N1|Ddeep|Nlink||")
        .file("./a/new", "new")
        .bytes();
    Path root = Files.createDirectory(temp.resolve("root"));
    LayerUnpacker unpacker = new LayerUnpacker(root, UnpackLimits.upTo(1000, 100));
    for (byte[] tar : List.of(full, incremental)) {
      lister.apply(new TarEntries(new ByteArrayInputStream(tar)), "layer");
      unpacker.apply(new ByteArrayInputStream(tar));
    }
    assertThat(paths()).containsExactly("a/3", "a/new", "a0", "b/1", "b/deep/2", "b/link");
    assertThat(root.resolve("b/deep/2")).hasContent("two");
    assertThat(root.resolve("a/3")).hasContent("three");
    assertThat(unpacker.specials()).containsOnlyKeys("b/link");
    try (Stream<Path> left = Files.list(root)) {
      assertThat(left.map(p -> p.getFileName().toString())).containsOnly("a", "b", "a0");
    }
  }

  /** GNU tar 1.34 ends with "Cannot rename ‘./a’ to ‘./b’: Directory not empty" (tried). */
  @Test
  void aFolderIsNotRenamedOverAnother() throws IOException {
    Path root = Files.createDirectory(temp.resolve("root"));
    LayerUnpacker unpacker = new LayerUnpacker(root, UnpackLimits.upTo(1000, 100));
    unpacker.apply(
        new ByteArrayInputStream(new Tar().file("./a/1", "").file("./b/2", "").bytes()));
    byte[] over = new Tar().dumped(".", "Db|R./a|T./b||").bytes();
    assertThatThrownBy(() -> unpacker.apply(new ByteArrayInputStream(over)))
        .isInstanceOf(BrokenArchive.class)
        .hasMessage(
            "it renames the folder ./a to ./b, where something stands: tar can't restore that");
    byte[] out = new Tar().dumped(".", "Da|R../x|T./c||").bytes();
    assertThatThrownBy(() -> unpacker.apply(new ByteArrayInputStream(out)))
        .isInstanceOf(HostileArchive.class);
    byte[] below = new Tar().dumped(".", "Da|R./a|T./a/b||").bytes();
    assertThatThrownBy(() -> unpacker.apply(new ByteArrayInputStream(below)))
        .isInstanceOf(BrokenArchive.class);
  }

  @Test
  void whatIsNoArchiveIsRefused() throws IOException {
    Path none = Files.writeString(temp.resolve("none.zip"), "no zip at all");
    assertThatThrownBy(() -> ZipEntries.open(none)).isInstanceOf(IOException.class);
    byte[] noise = new byte[4096];
    new Random(1).nextBytes(noise);
    assertThatThrownBy(() -> lister.apply(new TarEntries(new ByteArrayInputStream(noise)), "x"))
        .isInstanceOf(IOException.class);
  }

  private static String name(Random random, int depth) {
    StringBuilder name = new StringBuilder();
    for (int i = 0; i < depth; i++) {
      name.append(i == 0 ? "" : "/").append((char) ('a' + random.nextInt(3)));
    }
    return name.toString();
  }

  private static Tar layer(Random random) throws IOException {
    Tar tar = new Tar();
    for (int i = 0; i < 6; i++) {
      String name = name(random, 1 + random.nextInt(3));
      int slash = name.lastIndexOf('/') + 1;
      switch (random.nextInt(6)) {
        case 0 -> tar.folder(name);
        case 1 -> tar.file(name.substring(0, slash) + ".wh." + name.substring(slash), "");
        case 2 -> tar.file(name.substring(0, slash) + ".wh..wh..opq", "");
        default -> tar.file((random.nextBoolean() ? "./" : "") + name, name);
      }
    }
    return tar;
  }

  /** A property: any three layers, unpacked and listed. */
  @Test
  void theListIsWhatAnUnpackingLeaves() throws IOException {
    for (int seed = 0; seed < 400; seed++) {
      Random random = new Random(seed);
      Path root = Files.createDirectory(temp.resolve("r" + seed));
      LayerUnpacker unpacker = new LayerUnpacker(root, UnpackLimits.upTo(1_000_000, 10_000));
      LayerLister one = new LayerLister(true);
      for (int i = 0; i < 3; i++) {
        byte[] tar = layer(random).bytes();
        unpacker.apply(new ByteArrayInputStream(tar));
        one.apply(new TarEntries(new ByteArrayInputStream(tar)), "layer-" + i);
      }
      List<String> left;
      try (Stream<Path> walk = Files.walk(root)) {
        left = walk.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
            .map(p -> root.relativize(p).toString())
            .sorted()
            .toList();
      }
      assertThat(one.entries()).as("seed " + seed).extracting(Listed::path).isEqualTo(left);
    }
  }
}
