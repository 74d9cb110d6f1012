package hardproof.standins.artifacts;

/**
 * The bytes of an artifact.
 *
 * @param manifest in the form of {@code sha256sum}; null for databases
 */
public record Artifact(String format, byte[] bytes, byte[] manifest) {}
