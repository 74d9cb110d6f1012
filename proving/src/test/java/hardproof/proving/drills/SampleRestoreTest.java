package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.proving.Command;
import hardproof.proving.Tar;
import hardproof.proving.checksums.Checksum;
import hardproof.proving.manifests.TreeManifest;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Which files a sample holds, and what it shows. */
class SampleRestoreTest extends WithStore {
  private DrillResult sample(DrillOptions options, Artifact... chain) {
    return runner.run(
        request(Method.SAMPLE_RESTORE, List.of(), true, options, chain), new Recorder());
  }

  @Test
  void aSampleIsDrawnAgainByItsSeed() throws IOException {
    Tar tar = new Tar();
    List<String> all = new ArrayList<>();
    for (int i = 0; i < 50; i++) {
      tar.file("f" + i, "content " + i);
      all.add("f" + i);
      all.add("content " + i);
    }
    Artifact artifact = put("s.tar", "tar", tar.bytes(), manifest(all.toArray(String[]::new)));
    DrillOptions seven = new DrillOptions("quarter 4", 7, List.of(), null, null);
    DrillResult first = sample(seven, artifact);
    assertThat(first.checks()).as(first.sentence()).isEqualTo(ChecksState.PASSED);
    assertThat(first.reaches()).as("restored is shown of the sample only").isEqualTo(Rung.INTACT);
    assertThat(first.sentence())
        .endsWith("a sample of 50, drawn by seed quarter 4")
        .startsWith("restored for the sample: 7 files");
    List<String> drawn = names();
    assertThat(drawn).hasSize(7);
    sample(seven, artifact);
    assertThat(names()).isEqualTo(drawn);
    sample(new DrillOptions("another", 7, List.of(), null, null), artifact);
    assertThat(names()).isNotEqualTo(drawn);
  }

  private List<String> names() throws IOException {
    try (var walk = Files.walk(sandboxes.root().resolve("run-1/restored"))) {
      return walk.filter(Files::isRegularFile)
          .map(p -> p.getFileName().toString())
          .sorted()
          .toList();
    }
  }

  /** The rule is published, so that an outsider draws the same: computed here by the general tool. */
  @Test
  void theDrawIsTheRankOfSha256OfSeedAndPath() throws Exception {
    List<String> paths = List.of("x", "y", "z");
    List<String> ranked = new ArrayList<>(paths);
    ranked.sort(Comparator.comparing(p -> {
      try {
        Path file = temp.resolve("line");
        Files.writeString(file, "seed\n" + p);
        return Command.run(temp, "sha256sum", file.toString()).output().substring(0, 64);
      } catch (Exception e) {
        throw new IllegalStateException(e);
      }
    }));
    var items = new LinkedHashMap<String, TreeManifest.Item>();
    paths.forEach(p ->
        items.put(p, new TreeManifest.Item(Checksum.sha256("0".repeat(64)), null, null)));
    assertThat(SampleRestoreDrill.drawn(TreeManifest.ofFiles(items), "seed", 3)).isEqualTo(ranked);
  }

  @Test
  void namedFilesAreRestoredAlone() throws IOException {
    Artifact[] chain = chain();
    DrillResult result = sample(new DrillOptions("", 1, List.of("a"), null, null), chain);
    assertThat(result.sentence())
        .contains("1 file (7 B) equal to the manifest, a sample of 2, as named");
    assertThat(names()).containsExactly("a");
    DrillResult none = sample(new DrillOptions("", 1, List.of("b"), null, null), chain);
    assertThat(none.restore()).isEqualTo(RestoreState.INTERRUPTED);
    assertThat(none.blamedPoint()).isNull();
    assertThat(none.sentence()).startsWith("b is not in the manifest of this point");
  }

  /** A zip tells at its end what it holds, so it is laid aside whole also for a sample. */
  @Test
  void aSampleOfAZipNeedsSpaceForTheZip() throws IOException {
    byte[] bytes = new byte[123];
    Artifact zip = put("s.zip", "zip", bytes, manifest("a", "one"));
    Artifact tar = put("s.tar", "tar", bytes, manifest("a", "one"));
    DrillOptions one = new DrillOptions("", 1, List.of(), null, null);
    assertThat(runner
            .plan(request(Method.SAMPLE_RESTORE, List.of(), false, one, zip))
            .spaceBytes())
        .isEqualTo(123);
    assertThat(runner
            .plan(request(Method.SAMPLE_RESTORE, List.of(), false, one, tar))
            .spaceBytes())
        .isZero();
  }

  @Test
  void aLinkToAFileOutsideTheSampleIsReadThere() throws IOException {
    Artifact linked = put(
        "l.tar",
        "tar",
        new Tar().file("first", "one").hardLink("second", "first").bytes(),
        manifest("first", "one", "second", "one"));
    DrillResult result = sample(new DrillOptions("", 1, List.of("second"), null, null), linked);
    assertThat(result.sentence())
        .isEqualTo(
            "restored for the sample: 1 file (3 B) equal to the manifest, a sample of 2, as named");
    Artifact wrong = put(
        "w.tar",
        "tar",
        new Tar().file("first", "two").hardLink("second", "first").bytes(),
        manifest("first", "one", "second", "one"));
    assertThat(sample(new DrillOptions("", 1, List.of("second"), null, null), wrong)
            .sentence())
        .isEqualTo("restored, but 1 file changed: second");
  }
}
