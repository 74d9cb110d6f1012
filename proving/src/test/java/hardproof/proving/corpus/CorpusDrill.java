package hardproof.proving.corpus;

import hardproof.proving.checksums.Sha256;
import hardproof.proving.drills.Artifact;
import hardproof.proving.drills.DrillLimits;
import hardproof.proving.drills.DrillOptions;
import hardproof.proving.drills.DrillRequest;
import hardproof.proving.drills.DrillResult;
import hardproof.proving.drills.DrillRunner;
import hardproof.proving.drills.Engines;
import hardproof.proving.drills.Unwatched;
import hardproof.proving.encryption.Keys;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.proving.stores.FolderStore;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** Drills artifacts of the corpus as the product does, each with the SHA-256 of its bytes on record. */
final class CorpusDrill {
  private static final List<String> MANIFESTS =
      List.of(".sha256", ".sha512", ".mtree", ".sha384", ".sha224", ".sha1", ".md5", ".blocks");

  private final Path folder;
  private final DrillRunner runner;
  private int run;

  CorpusDrill(Path folder, Path sandboxes) {
    this.folder = folder;
    this.runner = new DrillRunner(
        new Sandboxes(sandboxes, 0),
        new Engines(
            sandboxes.resolveSibling(sandboxes.getFileName() + "-self-test"),
            Keys.in(folder.resolve("keys"))),
        DrillLimits.usual());
  }

  DrillResult run(CorpusTest.Item item) throws IOException {
    List<Artifact> chain = new ArrayList<>();
    for (String file : item.file().split("\\+")) {
      chain.add(artifact(file, item.format()));
    }
    DrillRequest request = new DrillRequest(
        "corpus-" + ++run,
        new DrillRequest.Of("resource", "point", Instant.parse("2026-11-24T09:00:00Z")),
        new DrillRequest.From("store", "SKERRY DISK", new FolderStore(folder)),
        item.method(),
        chain,
        item.checks(),
        false,
        new DrillOptions("", DrillOptions.SAMPLE_USUAL, List.of(), null, Duration.ofMinutes(2)),
        null,
        List.of());
    return runner.run(request, new Unwatched());
  }

  private Artifact artifact(String file, String format) throws IOException {
    Path path = folder.resolve(file);
    String manifest = null;
    for (String end : MANIFESTS) {
      Path beside = folder.resolve(file + end);
      if (manifest == null && Files.exists(beside)) {
        manifest = Sha256.of(beside);
      }
    }
    boolean whole = Files.isDirectory(path);
    return new Artifact(
        "point-" + file,
        format,
        file,
        whole ? null : Files.size(path),
        whole ? null : Sha256.of(path),
        manifest);
  }
}
