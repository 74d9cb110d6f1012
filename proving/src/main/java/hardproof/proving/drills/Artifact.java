package hardproof.proving.drills;

/**
 * One artifact of the chain that is drilled.
 *
 * @param place path below its store
 * @param sizeBytes expected; null when not known
 * @param sha256 expected; null when not known
 * @param manifestSha256 of the manifest that lies at {@code place + ".sha256"}; null when there is
 *     none
 */
public record Artifact(
    String point,
    String format,
    String place,
    Long sizeBytes,
    String sha256,
    String manifestSha256) {
  public String manifestPlace() {
    return place + ".sha256";
  }
}
