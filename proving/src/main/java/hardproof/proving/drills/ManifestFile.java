package hardproof.proving.drills;

import hardproof.proving.checksums.BlockManifest;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.manifests.TreeManifest;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;

/**
 * The manifest that lies beside an artifact, held to the digest on record: {@code PLACE.sha256} (as
 * sha256sum writes it) or {@code PLACE.mtree} for files, {@code PLACE.blocks} for one large file.
 */
final class ManifestFile {
  static final String CHECKSUMS = ".sha256";
  static final String MTREE = ".mtree";
  static final String BLOCKS = ".blocks";
  private static final int MAX_BYTES = 256 << 20;

  private ManifestFile() {}

  /** The manifest of an artifact that is files. */
  static TreeManifest ofTree(DrillRequest request, Artifact artifact)
      throws DrillFailure, IOException {
    String end = beside(request, artifact, List.of(CHECKSUMS, MTREE));
    String text = text(request, artifact, artifact.place() + end);
    try {
      return end.equals(MTREE) ? TreeManifest.ofMtree(text) : TreeManifest.ofChecksums(text);
    } catch (IllegalArgumentException e) {
      throw DrillFailure.contentWrong(artifact, artifact.place() + end + ": " + e.getMessage());
    }
  }

  /** The block manifest of an artifact that is one file; null when none lies beside it. */
  static BlockManifest ofBlocks(DrillRequest request, Artifact artifact)
      throws DrillFailure, IOException {
    String place = artifact.place() + BLOCKS;
    if (artifact.manifestSha256() == null || !there(request, place)) {
      return null;
    }
    try {
      return BlockManifest.parse(text(request, artifact, place));
    } catch (IllegalArgumentException e) {
      throw DrillFailure.contentWrong(artifact, place + ": " + e.getMessage());
    }
  }

  private static boolean there(DrillRequest request, String place) {
    try {
      return request.store().size(place) >= 0;
    } catch (ArtifactUnreadable e) {
      return e.outside();
    }
  }

  /** The first that is there; the first of all when none is, so that its absence is told. */
  private static String beside(DrillRequest request, Artifact artifact, List<String> ends) {
    return ends.stream()
        .filter(e -> there(request, artifact.place() + e))
        .findFirst()
        .orElse(ends.get(0));
  }

  private static String text(DrillRequest request, Artifact artifact, String place)
      throws DrillFailure, IOException {
    byte[] bytes;
    try (InputStream in = request.store().open(place)) {
      bytes = in.readNBytes(MAX_BYTES);
    } catch (ArtifactUnreadable e) {
      if (e.outside()) {
        throw e;
      }
      throw DrillFailure.copyUnrestorable(request, artifact, "the manifest " + e.getMessage());
    }
    if (!Sha256.of(bytes).equals(artifact.manifestSha256())) {
      throw DrillFailure.copyWrong(
          request, artifact, "the manifest " + place + " is not the one that was recorded");
    }
    return new String(bytes, StandardCharsets.UTF_8);
  }
}
