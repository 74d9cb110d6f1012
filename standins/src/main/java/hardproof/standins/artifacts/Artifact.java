package hardproof.standins.artifacts;

/**
 * The bytes of an artifact.
 *
 * @param manifest that lies beside it; null where there is none
 * @param manifestEnd what its name adds to the artifact's
 */
public record Artifact(String format, byte[] bytes, byte[] manifest, String manifestEnd) {
  /** With a manifest in the form of {@code sha256sum}, or none. */
  public Artifact(String format, byte[] bytes, byte[] manifest) {
    this(format, bytes, manifest, ".sha256");
  }
}
