package hardproof.proving.drills;

import hardproof.proving.manifests.TreeComparison;
import hardproof.proving.manifests.TreeManifest;
import java.io.IOException;

/** Holds what was restored to a manifest, and says which it is that does not fit. */
final class ManifestCheck {
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
        TreeComparison.of(w.restored(), w.specials, manifest, w.steps::read);
    if (comparison.elsewhere()) {
      throw DrillFailure.lacking(comparison.sentence());
    }
    if (!comparison.equal()) {
      throw DrillFailure.contentWrong(
          request.last(), "restored, but " + comparison.sentence() + doubts(w));
    }
    if (comparison.empty() && !request.mayBeEmpty()) {
      throw DrillFailure.contentWrong(
          request.last(),
          "nothing was restored: neither the backup nor its manifest holds a file. Where that is right,"
              + " give the resource the check \"it is empty, and that is right\"");
    }
    return comparison.sentence() + doubts(w);
  }

  /** What others may make of the archive; where the manifest vouches for all, it is only said. */
  private static String doubts(Workplace w) {
    return w.doubts.isEmpty() ? "" : "; the archive " + String.join("; it ", w.doubts);
  }
}
