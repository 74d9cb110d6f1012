package hardproof.proving.manifests;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import hardproof.proving.Command;
import hardproof.proving.archives.Untold;
import hardproof.proving.names.EntryName;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Manifests in the mtree format, as mtree(5) describes it, and what is wrong with some. */
class TreeManifestTest {
  private static final String SUM = "ab".repeat(32);

  @TempDir
  Path temp;

  private static TreeManifest.Item only(String mtree) {
    TreeManifest manifest = TreeManifest.ofMtree(mtree);
    assertThat(manifest.files()).hasSize(1);
    return manifest.files().values().iterator().next();
  }

  @Test
  void defaultsHoldUntilTheyAreTakenBack() {
    TreeManifest manifest =
        TreeManifest.ofMtree("#mtree\n/set type=file mode=644\n./a sha256=" + SUM
            + "\n./b mode=600 sha256digest=" + SUM + "\n/unset mode\n./c sha256digest=" + SUM
            + "\n./d type=dir\n./e type=link link=a\n");
    assertThat(manifest.files()).containsOnlyKeys("a", "b", "c");
    assertThat(manifest.files().get("a").mode()).isEqualTo(0644);
    assertThat(manifest.files().get("b").mode()).isEqualTo(0600);
    assertThat(manifest.files().get("c").mode()).isNull();
  }

  @Test
  void timesHaveFractionsAndSumsAnyCase() {
    TreeManifest.Item item =
        only("./a time=1764000000.25 sha256digest=" + SUM.toUpperCase(java.util.Locale.ROOT));
    assertThat(item.modified()).isEqualTo(Instant.parse("2025-11-24T16:00:00.250Z"));
    assertThat(item.checksum().hex()).isEqualTo(SUM);
  }

  /** vis(3): a backslash and three octal digits. */
  @Test
  void namesAreDecoded() {
    assertThat(TreeManifest.ofMtree("./two\\040words\\012\\303\\245 sha256digest=" + SUM)
            .files())
        .containsOnlyKeys("two words\nå");
    assertThat(TreeManifest.ofMtree("./a\\sb\\tc\\\\d\\#e sha256digest=" + SUM).files())
        .containsOnlyKeys("a b\tc\\d#e");
    assertThat(TreeManifest.ofMtree("./a\\9 sha256digest=" + SUM).files()).containsOnlyKeys("a\\9");
  }

  @Test
  void aLineMayGoOnInTheNext() {
    assertThat(only("./a mode=640 \\\n    sha256digest=" + SUM).mode()).isEqualTo(0640);
  }

  @ParameterizedTest
  @CsvSource(delimiter = '|', textBlock = """
      ./b type=file | line 2 of the mtree manifest has no SHA-256 (sha256digest=…)
      ./b sha256digest=abc | line 2 of the mtree manifest has no SHA-256 (sha256digest=…)
      ./b mode=9 sha256digest=SUM | line 2 of the mtree manifest has a mode or time that is no number
      ./b time=x sha256digest=SUM | line 2 of the mtree manifest has a mode or time that is no number
      ./a sha256digest=SUM | line 2 of the mtree manifest names a again""")
  void whatIsWrongIsSaidWithItsLine(String line, String message) {
    assertThatThrownBy(() -> TreeManifest.ofMtree(
            "./a sha256digest=" + SUM + "\n" + line.replace("SUM", SUM) + "\n"))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessage(message);
  }

  /** As mtree(5) tells of relative entries: a folder is gone into, and left by two dots. */
  @Test
  void entriesMayStandBelowTheirFolders() {
    TreeManifest manifest = TreeManifest.ofMtree(String.join(
        "\n",
        "/set type=file",
        ". type=dir",
        "    top sha256=" + SUM,
        "# ./sub",
        "sub type=dir mode=0755",
        "    in-sub mode=0644 \\",
        "        sha256=" + SUM,
        "    deep type=dir",
        "        in-deep sha256=" + SUM,
        "    ..",
        "..",
        "    last sha256=" + SUM,
        ".."));
    assertThat(manifest.files()).containsOnlyKeys("top", "sub/in-sub", "sub/deep/in-deep", "last");
    assertThat(manifest.files().get("sub/in-sub").mode()).isEqualTo(0644);
  }

  @Test
  void linesAreCountedAsTheyStand() {
    assertThatThrownBy(
            () -> TreeManifest.ofMtree("./a \\\n sha256digest=" + SUM + "\n./b type=file\n"))
        .hasMessageStartingWith("line 3 of the mtree manifest has no SHA-256");
    assertThatThrownBy(() -> TreeManifest.ofMtree("./a sha256digest=" + SUM + "\n..\n"))
        .hasMessage("line 2 of the mtree manifest leaves a folder that none began");
  }

  /** As vis(3) of NetBSD has them: M- for the highest bit, ^ for control characters. */
  @Test
  void namesAreReadInEveryFormOfVis() {
    String mtree = "./a\\M-Cb\\M^Ec\\^Ad\\040e\\sf\\M sha256digest=" + SUM + "\n";
    assertThat(TreeManifest.ofMtree(mtree).files()).containsOnlyKeys(EntryName.of(new byte[] {
      'a', (byte) 0xc3, 'b', (byte) 0x85, 'c', 1, 'd', ' ', 'e', ' ', 'f', '\\', 'M'
    }));
  }

  /** Outside check: bsdtar writes a manifest of a tree, and the tree is equal to it. */
  @Test
  void aManifestOfTheGeneralToolIsRead() throws Exception {
    assumeTrue(Command.there("bsdtar"), "bsdtar is not installed");
    Path tree = Files.createDirectories(temp.resolve("tree/sub dir"));
    Files.writeString(tree.resolve("å.txt"), "one");
    Files.writeString(tree.resolveSibling("b"), "two");
    Command made = Command.run(
        temp,
        "bsdtar",
        "-cf",
        "tree.mtree",
        "--format=mtree",
        "--options=sha256,time,mode,type,size",
        "-C",
        "tree",
        ".");
    assertThat(made.exit()).as(made.output()).isZero();
    TreeManifest manifest = TreeManifest.ofMtree(Files.readString(temp.resolve("tree.mtree")));
    assertThat(manifest.files()).containsOnlyKeys("b", "sub dir/å.txt");
    TreeComparison same =
        TreeComparison.of(temp.resolve("tree"), Map.of(), Untold.NOTHING, manifest, n -> {});
    assertThat(same.equal()).as(same.sentence()).isTrue();
  }

  /** Outside check: so does the tool whose format it is, in its own form. */
  @Test
  void aManifestOfMtreeIsRead() throws Exception {
    assumeTrue(Command.there("mtree"), "mtree is not installed");
    Path tree =
        Files.createDirectories(temp.resolve("tree/sub/deep")).getParent().getParent();
    Files.writeString(tree.resolve("two words"), "one");
    Files.writeString(tree.resolve("sub/b"), "two");
    Files.writeString(tree.resolve("sub/deep/c"), "three");
    Files.writeString(tree.resolve("z"), "four");
    Command made = Command.run(temp, "mtree", "-c", "-k", "sha256,type,mode,time", "-p", "tree");
    assertThat(made.exit()).as(made.output()).isZero();
    TreeManifest manifest = TreeManifest.ofMtree(made.output());
    assertThat(manifest.files()).containsOnlyKeys("two words", "sub/b", "sub/deep/c", "z");
    TreeComparison same = TreeComparison.of(tree, Map.of(), Untold.NOTHING, manifest, n -> {});
    assertThat(same.equal()).as(same.sentence()).isTrue();
  }

  @Test
  void aListOfTheGeneralToolIsRead() throws Exception {
    Files.writeString(temp.resolve("a\nb"), "x");
    String list = Command.run(temp, "sha256sum", "a\nb").output();
    assertThat(TreeManifest.ofChecksums(list).files()).containsOnlyKeys("a\nb");
  }
}
