package hardproof.proving.checksums;

/**
 * What some bytes should sum up to.
 *
 * @param hex lower-case
 */
public record Checksum(DigestKind kind, String hex) {
  public static Checksum sha256(String hex) {
    return new Checksum(DigestKind.SHA256, hex);
  }
}
