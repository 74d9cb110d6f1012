package hardproof.proving.drills;

import hardproof.proving.checksums.BlockManifest;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.manifests.TreeManifest;
import hardproof.proving.names.EntryName;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;

/**
 * The manifest that lies beside an artifact, held to the digest on record: {@code PLACE.sha256} (as
 * sha256sum writes it; also {@code .sha512}, {@code .sha1}, {@code .md5}) or {@code PLACE.mtree} for files, {@code PLACE.blocks} for one large file.
 */
final class ManifestFile {
  static final String MTREE = ".mtree";
  static final String BLOCKS = ".blocks";
  private static final List<String> TREES =
      List.of(".sha256", ".sha512", MTREE, ".sha384", ".sha224", ".sha1", ".md5");
  private static final int MAX_BYTES = 256 << 20;

  private ManifestFile() {}

  /**
   * The manifest of an artifact that is files.
   *
   * @throws DrillFailure blaming nothing where it is as recorded and no manifest of what is in the artifact
   */
  static TreeManifest ofTree(DrillRequest request, Artifact artifact)
      throws DrillFailure, IOException {
    String end = beside(request, artifact, TREES);
    String place = artifact.place() + end;
    String text = text(request, artifact, place);
    TreeManifest manifest;
    try {
      manifest = end.equals(MTREE) ? TreeManifest.ofMtree(text) : TreeManifest.ofChecksums(text);
    } catch (IllegalArgumentException e) {
      throw DrillFailure.lacking(
          "the manifest " + place + " is as recorded and can't be used: " + e.getMessage());
    }
    refuseOwnSum(artifact, place, manifest);
    return manifest;
  }

  private static void refuseOwnSum(Artifact artifact, String place, TreeManifest manifest)
      throws DrillFailure {
    if (ofTheArtifactItself(artifact, manifest)) {
      throw DrillFailure.lacking(
          "the manifest " + place + " holds the checksum of " + artifact.place()
              + " itself, not of the files in it. Record that one as sha256 of the copy, and bring a list of"
              + " the files as its manifest");
    }
  }

  /** A list of one line that names the archive, as people keep one beside a download. */
  private static boolean ofTheArtifactItself(Artifact artifact, TreeManifest manifest) {
    if (manifest.files().size() != 1 || ReadBack.folder(artifact)) {
      return false;
    }
    String listed = manifest.files().keySet().iterator().next();
    String name = artifact.place().substring(artifact.place().lastIndexOf('/') + 1);
    return listed.equals(name) || listed.endsWith("/" + name);
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
      throw DrillFailure.lacking(
          "the manifest " + place + " is as recorded and can't be used: " + e.getMessage());
    }
  }

  private static boolean there(DrillRequest request, String place) {
    try {
      return request.store().size(place) >= 0;
    } catch (ArtifactUnreadable e) {
      return e.unjudged();
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
    byte[] bytes = bytes(request, artifact, place);
    if (!Sha256.of(bytes).equals(artifact.manifestSha256())) {
      throw DrillFailure.copyWrong(
          request, artifact, "the manifest " + place + " is not the one that was recorded");
    }
    return EntryName.of(bytes);
  }

  private static byte[] bytes(DrillRequest request, Artifact artifact, String place)
      throws IOException, DrillFailure {
    byte[] bytes;
    try (InputStream in = request.store().open(place)) {
      bytes = in.readNBytes(MAX_BYTES);
    } catch (ArtifactUnreadable e) {
      if (e.unjudged()) {
        throw e;
      }
      throw DrillFailure.copyUnrestorable(request, artifact, "the manifest " + e.getMessage());
    }
    return bytes;
  }
}
