package hardproof.proving.drills;

import hardproof.core.drills.Method;
import hardproof.proving.checksums.BlockManifest;
import hardproof.proving.manifests.TreeComparison;
import hardproof.proving.manifests.TreeManifest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;

/** Holds what was restored to a manifest, and says which it is that does not fit. */
final class ManifestCheck {
  private static final int SMALLEST_BLOCK = 4096;

  private ManifestCheck() {}

  /**
   * Compares the restored tree with the manifest of the newest artifact.
   *
   * @return what was found, for people
   * @throws DrillFailure blaming the point where they differ, and nothing where they can't be compared
   */
  static String whole(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    return compare(request, w, ManifestFile.ofTree(request, request.last()));
  }

  static String compare(DrillRequest request, Workplace w, TreeManifest manifest)
      throws DrillFailure, IOException {
    TreeComparison comparison =
        TreeComparison.of(w.restored(), w.specials, w.untold, manifest, w.steps::read);
    if (comparison.elsewhere()) {
      throw DrillFailure.lacking(comparison.sentence());
    }
    if (!comparison.equal()) {
      throw DrillFailure.contentWrong(
          request.last(), "restored, but " + comparison.sentence() + doubts(w));
    }
    if (comparison.empty() && !request.mayBeEmpty()) {
      throw nothing(request);
    }
    return comparison.sentence() + links(request, w, comparison) + doubts(w);
  }

  static DrillFailure nothing(DrillRequest request) {
    return DrillFailure.contentWrong(
        request.last(),
        "nothing was restored: neither the backup nor its manifest holds a file. Where that is right,"
            + " give the resource the check \"it is empty, and that is right\"");
  }

  /**
   * Links that no manifest vouches for are held to those that were first seen: that nothing changed since can
   * be shown, not that they were right.
   */
  private static String links(DrillRequest request, Workplace w, TreeComparison comparison)
      throws DrillFailure {
    if (comparison.linksNotVouched() == 0 || request.method() == Method.SAMPLE_RESTORE) {
      return "";
    }
    BlockManifest now = linksNow(w);
    Artifact last = request.last();
    Baseline first = last.firstLinks();
    if (first == null) {
      w.baselines.add(new Baseline(last.point(), Artifact.placeOfLinks(last.place()), null, now));
      return ", kept for the next time";
    }
    return seenBefore(request, now, last, first);
  }

  private static BlockManifest linksNow(Workplace w) {
    StringBuilder list = new StringBuilder();
    w.specials
        .values()
        .forEach(s -> list.append(s.path()).append('\t').append(s.words()).append('\n'));
    return BlockManifest.of(list.toString().getBytes(StandardCharsets.UTF_8), SMALLEST_BLOCK);
  }

  private static String seenBefore(
      DrillRequest request, BlockManifest now, Artifact last, Baseline first) throws DrillFailure {
    String seen = first.seen().toString().substring(0, 10);
    if (!first.blocks().equals(now)) {
      throw DrillFailure.copyWrong(
          request, last, "restored, but its links are not those that were first seen on " + seen);
    }
    return ", as first seen on " + seen;
  }

  /** What others may make of the archive; where the manifest vouches for all, it is only said. */
  private static String doubts(Workplace w) {
    return w.doubts.isEmpty() ? "" : "; the archive " + String.join("; it ", w.doubts);
  }
}
