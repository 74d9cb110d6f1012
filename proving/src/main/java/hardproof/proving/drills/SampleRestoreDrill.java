package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Restored;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.files.RestoredFiles;
import hardproof.proving.manifests.TreeManifest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * Restores some files and compares them with the manifest. They are drawn by ranking SHA-256 of the seed
 * and the path, so that anybody can draw the same again.
 */
final class SampleRestoreDrill implements DrillMethod {
  @Override
  public List<String> steps(DrillRequest request) {
    List<String> steps = new ArrayList<>();
    steps.add(
        request.options().paths().isEmpty()
            ? "Draw " + Wording.count(request.options().sample(), "file", "files")
            : "Find " + Wording.count(request.options().paths().size(), "file", "files"));
    for (Artifact artifact : request.chain()) {
      steps.add("Read " + artifact.place());
    }
    steps.add("Compare the sample with the manifest");
    return steps;
  }

  /** The sample is restored; of everything else, at the most that its bytes are as they were. */
  @Override
  public Rung reaches(DrillRequest request) {
    return request.chain().stream().allMatch(a -> a.sha256() != null) ? Rung.INTACT : Rung.HELD;
  }

  /**
   * How large the drawn files are is told by no manifest; the limit of bytes holds for them. What is
   * laid aside, is so whole.
   */
  @Override
  public long spaceBytes(DrillRequest request) throws IOException {
    long bytes = 0;
    for (Artifact artifact : request.chain()) {
      if (artifact.known().filter(f -> f.packing().seeks()).isPresent()) {
        bytes += request.store().size(artifact.place());
      }
    }
    return bytes;
  }

  @Override
  public List<String> notes(DrillRequest request) {
    return List.of("A sample shows \"restored\" of the files drawn, and of no others.");
  }

  @Override
  public String refusal(DrillRequest request) {
    String refusal = TreeRestore.refusal(request);
    if (refusal != null) {
      return refusal;
    }
    return request.last().manifestSha256() == null
        ? "no manifest was recorded for " + request.last().place()
            + ": there is nothing to draw from or to compare with. Choose read-through instead."
        : null;
  }

  @Override
  public Set<Aspect> aspects() {
    return Set.of(Aspect.FILES);
  }

  private static String seed(DrillRequest request) {
    return request.options().seed().isEmpty()
        ? request.run()
        : request.options().seed();
  }

  /** The files of a sample: those that were named, or the first by SHA-256 of seed, line feed, path. */
  static List<String> drawn(TreeManifest manifest, String seed, int size) {
    List<String> all = new ArrayList<>(manifest.files().keySet());
    Map<String, String> rank = new LinkedHashMap<>();
    for (String path : all) {
      rank.put(path, Sha256.of((seed + "\n" + path).getBytes(StandardCharsets.UTF_8)));
    }
    all.sort(Comparator.comparing((String p) -> rank.get(p)).thenComparing(p -> p));
    return all.subList(0, Math.min(size, all.size()));
  }

  private static TreeManifest sample(DrillRequest request, TreeManifest manifest)
      throws DrillFailure {
    List<String> paths = request.options().paths();
    List<String> files =
        paths.isEmpty() ? drawn(manifest, seed(request), request.options().sample()) : paths;
    Map<String, TreeManifest.Item> items = items(manifest, files);
    if (items.isEmpty()) {
      throw DrillFailure.ofRequest("the manifest of " + request.last().place()
          + " lists no file: a sample of none proves nothing. Choose full restore.");
    }
    return TreeManifest.ofFiles(items);
  }

  private static Map<String, TreeManifest.Item> items(TreeManifest manifest, List<String> files)
      throws DrillFailure {
    Map<String, TreeManifest.Item> items = new LinkedHashMap<>();
    for (String path : files) {
      TreeManifest.Item item = manifest.files().get(path);
      if (item == null) {
        throw DrillFailure.ofRequest(path
            + " is not in the manifest of this point: nothing can be restored under that name");
      }
      items.put(path, item);
    }
    return items;
  }

  @Override
  public void restore(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    TreeManifest manifest = ManifestFile.ofTree(request, request.last());
    TreeManifest sample = sample(request, manifest);
    w.steps.done(Wording.count(sample.files().size(), "file", "files") + " of "
        + manifest.files().size()
        + (request.options().paths().isEmpty() ? ", seed " + seed(request) : ", as named"));
    Set<String> wanted = new TreeSet<>(sample.files().keySet());
    TreeRestore.restore(request, w, wanted::contains);
  }

  @Override
  public String check(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    refuseDoubts(w);
    TreeManifest manifest = ManifestFile.ofTree(request, request.last());
    refuseNothing(w);
    // Links are part of the whole tree, and nothing of a sample says that they are all there.
    w.specials.keySet().retainAll(sample(request, manifest).files().keySet());
    String compared = ManifestCheck.compare(request, w, sample(request, manifest));
    String drawn =
        request.options().paths().isEmpty() ? "drawn by seed " + seed(request) : "as named";
    String found = compared + ", a sample of " + manifest.files().size() + ", " + drawn;
    w.steps.done(found);
    return "restored for the sample: " + found;
  }

  private static void refuseDoubts(Workplace w) throws DrillFailure {
    if (!w.doubts.isEmpty()) {
      throw DrillFailure.lacking("the archive " + String.join("; it ", w.doubts)
          + ". A sample can't tell whether all is there: choose full restore");
    }
  }

  private static void refuseNothing(Workplace w) throws IOException, DrillFailure {
    if (nothing(w)) {
      throw DrillFailure.lacking(
          "no file of the sample is there under its name: they are lost, or the"
              + " manifest was made from another folder. A sample can't tell: choose full restore");
    }
  }

  private static boolean nothing(Workplace w) throws IOException {
    try (Stream<Path> all = Files.walk(w.restored())) {
      return w.specials.isEmpty() && all.noneMatch(Files::isRegularFile);
    }
  }

  @Override
  public Restored open(DrillRequest request, Workplace w) {
    return new RestoredFiles(w.restored());
  }
}
