package hardproof.standins.artifacts;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.proving.archives.LayerUnpacker;
import hardproof.proving.archives.UnpackLimits;
import hardproof.proving.manifests.TreeComparison;
import hardproof.proving.manifests.TreeManifest;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.time.Instant;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ArtifactsTest {
  private static final Instant TIME = Instant.parse("2026-11-24T10:00:00Z");

  @TempDir
  Path folder;

  private static InputStream unzipped(Artifact artifact) throws IOException {
    return new GZIPInputStream(new ByteArrayInputStream(artifact.bytes()));
  }

  @Test
  void aChainOfLayersGivesTheTreeOfItsLastManifest() throws IOException {
    FileTrees trees = new FileTrees(3, 20, "tar.gz");
    LayerUnpacker unpacker = new LayerUnpacker(folder, UnpackLimits.upTo(100_000_000, 10_000));
    unpacker.apply(unzipped(trees.full(4, TIME)));
    Artifact last = null;
    for (int day = 5; day <= 9; day++) {
      last = trees.incremental(day, TIME);
      unpacker.apply(unzipped(last));
    }
    TreeComparison comparison = TreeComparison.of(
        folder,
        java.util.Map.of(),
        hardproof.proving.archives.Untold.NOTHING,
        TreeManifest.ofChecksums(new String(last.manifest(), StandardCharsets.UTF_8)),
        n -> {});
    assertThat(comparison.equal()).as(comparison.sentence()).isTrue();
    assertThat(comparison.files()).isEqualTo(trees.tree(9).size());
  }

  private String integrity(Artifact artifact) throws Exception {
    Path file = folder.resolve("a.db");
    Files.write(file, unzipped(artifact).readAllBytes());
    try (var connection = DriverManager.getConnection("jdbc:sqlite:" + file);
        var rows = connection.createStatement().executeQuery("PRAGMA integrity_check")) {
      return rows.getString(1);
    }
  }

  @Test
  void theSoundDatabaseIsSoundAndTheCorruptOneIsNot() throws Exception {
    assertThat(integrity(Databases.sound(1, TIME))).isEqualTo("ok");
    assertThat(integrity(Databases.corrupt(1, TIME))).isNotEqualTo("ok");
  }
}
