package hardproof.standins.estate;

import hardproof.proving.checksums.Sha256;
import hardproof.standins.artifacts.Artifact;
import hardproof.standins.artifacts.Databases;
import hardproof.standins.artifacts.FileTrees;
import hardproof.standins.estate.Scenario.ResourceRow;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;

/** Makes artifacts and puts them on the stand-in stores. */
final class ArtifactShelf {
  /** The database of payroll went bad inside eleven days ago. */
  private static final int PAYROLL_BAD_FOR_DAYS = 11;

  private static final int FILES = 40;

  private final Path stores;
  private final long seed;
  private final Map<String, FileTrees> shares = new HashMap<>();

  /** Where an artifact lies, and its digests. {@code manifest} null where it has none. */
  record Shelved(String place, String sha256, String manifest) {}

  ArtifactShelf(Path stores, long seed) {
    this.stores = stores;
    this.seed = seed;
  }

  /**
   * @param day counted up from the first day of the estate
   */
  Artifact make(ResourceRow r, int day, Instant dataTime, boolean full) throws IOException {
    long own = seed * 1009 + r.key().hashCode();
    if (r.database()) {
      boolean bad = r.key().equals("payroll-db") && EstateMaker.DAYS - day <= PAYROLL_BAD_FOR_DAYS;
      return bad ? Databases.corrupt(own, dataTime) : Databases.sound(own, dataTime);
    }
    FileTrees trees = shares.computeIfAbsent(r.key(), k -> new FileTrees(own, FILES));
    return full ? trees.full(day, dataTime) : trees.incremental(day, dataTime);
  }

  Shelved put(String store, ResourceRow r, String point, Artifact artifact) throws IOException {
    String place = r.key() + "/" + point + "." + artifact.format();
    Path file = stores.resolve(store).resolve(place);
    Files.createDirectories(file.getParent());
    Files.write(file, artifact.bytes());
    if (artifact.manifest() != null) {
      Files.write(file.resolveSibling(file.getFileName() + ".sha256"), artifact.manifest());
    }
    return new Shelved(
        place,
        Sha256.of(artifact.bytes()),
        artifact.manifest() == null ? null : Sha256.of(artifact.manifest()));
  }

  /** As a failing disk does: one bit in the middle, nothing else. */
  void flipOneBit(String store, String place) throws IOException {
    Path file = stores.resolve(store).resolve(place);
    byte[] bytes = Files.readAllBytes(file);
    bytes[bytes.length / 2] ^= 0x10;
    Files.write(file, bytes);
  }
}
