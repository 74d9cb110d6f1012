package hardproof.proving.drills;

import hardproof.proving.formats.ArtifactFormat;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * One artifact of the chain that is drilled.
 *
 * @param format as the copy's facts name it; null when not known
 * @param place path below its store, of a file or of a folder
 * @param sizeBytes expected; null when not known
 * @param sha256 expected; null when not known
 * @param manifestSha256 of the manifest that lies beside the artifact; null when there is none
 * @param baseline what a first reading found, of an artifact that came without a checksum; null when
 *     there was none
 * @param firstLinks the links that a first restore found, where no manifest vouches for them; null when
 *     there was none
 */
public record Artifact(
    String point,
    @Nullable String format,
    String place,
    @Nullable Long sizeBytes,
    @Nullable String sha256,
    @Nullable String manifestSha256,
    @Nullable Baseline baseline,
    @Nullable Baseline firstLinks) {

  public Artifact(
      String point,
      String format,
      String place,
      Long sizeBytes,
      String sha256,
      String manifestSha256) {
    this(point, format, place, sizeBytes, sha256, manifestSha256, null, null);
  }

  public Artifact with(Baseline seen) {
    return new Artifact(point, format, place, sizeBytes, sha256, manifestSha256, seen, firstLinks);
  }

  public Artifact withLinks(Baseline seen) {
    return new Artifact(point, format, place, sizeBytes, sha256, manifestSha256, baseline, seen);
  }

  /** Under which a first list of links is kept, beside what else is kept of the artifact. */
  public static String placeOfLinks(String place) {
    return place + " (links)";
  }

  Optional<ArtifactFormat> known() {
    return ArtifactFormat.named(format);
  }

  /** Whether something was recorded that its bytes can be held to. */
  boolean checkable() {
    return sha256 != null || manifestSha256 != null;
  }
}
