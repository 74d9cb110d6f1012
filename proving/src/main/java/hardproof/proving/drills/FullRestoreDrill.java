package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import hardproof.proving.bags.BagFolder;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Restored;
import hardproof.proving.checksums.BlockManifest;
import hardproof.proving.files.RestoredFiles;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.Content;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * Restores the chain, layer over layer, and compares the tree with the newest manifest; a bag with its
 * own. An artifact that is one file is restored as that file.
 */
final class FullRestoreDrill implements DrillMethod {
  private static boolean tree(DrillRequest request) {
    return request.last().known().filter(ArtifactFormat::tree).isPresent();
  }

  private static boolean bag(DrillRequest request) {
    return request.last().known().filter(f -> f.content() == Content.BAG).isPresent();
  }

  @Override
  public List<String> steps(DrillRequest request) {
    List<String> steps = new ArrayList<>();
    for (Artifact artifact : request.chain()) {
      steps.add("Restore " + artifact.place());
    }
    steps.add(
        !tree(request)
            ? "Compare with the checksum"
            : bag(request) && request.last().manifestSha256() == null
                ? "Compare with the bag's own manifests"
                : "Compare with the manifest");
    return steps;
  }

  @Override
  public Rung reaches(DrillRequest request) {
    return tree(request) ? Rung.RESTORED : Rung.INTACT;
  }

  @Override
  public List<String> notes(DrillRequest request) {
    return tree(request)
        ? List.of()
        : List.of(
            "One file is compared with its checksum, and nobody opens it: that shows it intact, no"
                + " more. A drill that opens it shows more, if one suits it.");
  }

  @Override
  public long spaceBytes(DrillRequest request) throws IOException {
    return TreeRestore.spaceBytes(request);
  }

  @Override
  public String refusal(DrillRequest request) {
    if (!tree(request)) {
      return fileRefusal(request);
    }
    String refusal = TreeRestore.refusal(request);
    if (refusal != null || bag(request)) {
      return refusal;
    }
    return request.last().manifestSha256() == null
        ? "no manifest was recorded for " + request.last().place()
            + ": there is nothing to compare the restored files with. Choose read-through instead."
        : null;
  }

  private static String fileRefusal(DrillRequest request) {
    String file = FileRestore.refusal(request, f -> !f.tree(), "one file");
    boolean checkable = request.last().checkable();
    return file != null || checkable
        ? file
        : "no checksum was recorded for " + request.last().place()
            + ": there is nothing to compare the restored file with. Choose read-through, which keeps"
            + " what it finds for the next time.";
  }

  @Override
  public Set<Aspect> aspects() {
    return Set.of(Aspect.FILES);
  }

  @Override
  public void restore(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    if (tree(request)) {
      TreeRestore.restore(request, w, null);
    } else {
      Files.createDirectories(w.restored());
      FileRestore.restore(request, request.last(), single(request, w), w);
    }
  }

  private static Path single(DrillRequest request, Workplace w) {
    String place = request.last().place();
    String name = place.substring(place.lastIndexOf('/') + 1);
    String suffix = request.last().known().orElseThrow().compression().name();
    boolean packed = !suffix.equals("NONE") && name.lastIndexOf('.') > 0;
    return w.restored().resolve(packed ? name.substring(0, name.lastIndexOf('.')) : name);
  }

  @Override
  public String check(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    String found = tree(request) ? compareTree(request, w) : compareFile(request, w);
    w.steps.done(found);
    return tree(request)
        ? "restored whole: " + found
        : "brought back, and nobody opened it: " + found;
  }

  private static String compareTree(DrillRequest request, Workplace w)
      throws DrillFailure, IOException {
    List<String> found = new ArrayList<>();
    if (request.last().manifestSha256() != null) {
      found.add(ManifestCheck.whole(request, w));
    }
    if (bag(request)) {
      compareBag(request, w, found);
    }
    return String.join("; ", found);
  }

  private static void compareBag(DrillRequest request, Workplace w, List<String> found)
      throws IOException, DrillFailure {
    BagFolder bag = BagFolder.check(BagFolder.topOf(w.restored()), w.steps::read);
    if (!bag.faults().isEmpty()) {
      throw DrillFailure.contentWrong(request.last(), "restored, but " + bag.sentence());
    }
    if (bag.files() == 0 && !request.mayBeEmpty()) {
      throw ManifestCheck.nothing(request);
    }
    found.add(bag.sentence());
  }

  /** The artifact's own checksum was compared while it was read. */
  private static String compareFile(DrillRequest request, Workplace w)
      throws DrillFailure, IOException {
    BlockManifest blocks = ManifestFile.ofBlocks(request, request.last());
    boolean plain = request.last().known().orElseThrow().compression().name().equals("NONE");
    if (blocks != null && plain) {
      compareBlocks(request, w, blocks);
      return "one file, every block as in its block manifest";
    }
    return "one file, its SHA-256 as recorded";
  }

  private static void compareBlocks(DrillRequest request, Workplace w, BlockManifest blocks)
      throws IOException, DrillFailure {
    try (InputStream in = Files.newInputStream(single(request, w))) {
      String difference = blocks.difference(BlockManifest.of(in, blocks.block(), w.steps::read));
      if (difference != null) {
        throw DrillFailure.copyUnrestorable(
            request, request.last(), request.last().place() + " is damaged: " + difference);
      }
    }
  }

  @Override
  public Restored open(DrillRequest request, Workplace w) {
    Content content = request.last().known().orElseThrow().content();
    return new RestoredFiles(w.restored(), content == Content.FILES || content == Content.BAG);
  }
}
