package hardproof.standins.estate;

import hardproof.proving.checksums.Sha256;
import hardproof.standins.artifacts.Artifact;
import hardproof.standins.artifacts.Bundles;
import hardproof.standins.artifacts.Databases;
import hardproof.standins.artifacts.Directories;
import hardproof.standins.artifacts.FileTrees;
import hardproof.standins.artifacts.Machines;
import hardproof.standins.estate.Scenario.ResourceRow;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Random;

/** Makes artifacts and puts them on the stand-in stores. */
final class ArtifactShelf {
  /** The database of payroll went bad inside eleven days ago. */
  private static final int PAYROLL_BAD_FOR_DAYS = 11;

  private static final int FILES = 40;

  private static final int LATELY = 200;

  private final Path stores;
  private final long seed;
  private final Map<String, FileTrees> shares = new HashMap<>();
  private final Map<String, Artifact> lately = new LinkedHashMap<>() {
    private static final long serialVersionUID = 1L;

    @Override
    protected boolean removeEldestEntry(Map.Entry<String, Artifact> eldest) {
      return size() > LATELY;
    }
  };

  /** Where an artifact lies, and its digests. {@code manifest} null where it has none. */
  record Shelved(String place, String sha256, String manifest) {}

  ArtifactShelf(Path stores, long seed) {
    this.stores = stores;
    this.seed = seed;
  }

  /** The same artifact as before where it was asked for lately: its copies come one after the other. */
  Artifact made(ResourceRow r, int day, int slot, Instant dataTime, boolean full)
      throws IOException {
    String key = r.key() + " " + day + " " + slot;
    Artifact known = lately.get(key);
    if (known == null) {
      known = make(r, day, dataTime, full);
      lately.put(key, known);
    }
    return known;
  }

  /**
   * @param day counted up from the first day of the estate
   */
  Artifact make(ResourceRow r, int day, Instant dataTime, boolean full) throws IOException {
    long own = seed * 1009 + r.key().hashCode();
    return switch (r.kind()) {
      case "database" -> database(r, day, dataTime, own);
      case "virtual-machine", "physical-server" ->
        Machines.disk(r.key(), Quirks.fate(r), own + day);
      case "directory" -> Directories.staff(own, Quirks.attributeLost(r, EstateMaker.DAYS - day));
      case "container-application" ->
        Bundles.application(r.key(), own, dataTime, !r.key().equals("shop-app"));
      default -> {
        FileTrees trees = shares.computeIfAbsent(
            r.key(), k -> new FileTrees(own, FILES, Quirks.archiveFormat(r)));
        yield full ? trees.full(day, dataTime) : trees.incremental(day, dataTime);
      }
    };
  }

  private static Artifact database(ResourceRow r, int day, Instant dataTime, long own)
      throws IOException {
    int daysAgo = EstateMaker.DAYS - day;
    if (r.key().equals("payroll-db") && daysAgo <= PAYROLL_BAD_FOR_DAYS) {
      return Databases.corrupt(own, dataTime);
    }
    if (r.key().equals("booking-db")) {
      // Since the day before yesterday the same old dump is taken again and again, under a new
      // label.
      return daysAgo > Quirks.MARKER_PLANTED_DAYS_AGO
          ? Databases.sound(own, dataTime)
          : daysAgo == Quirks.MARKER_PLANTED_DAYS_AGO
              ? Databases.marked(own, dataTime, Quirks.MARKER)
              : Databases.sound(
                  own,
                  dataTime.minus(
                      java.time.Duration.ofDays(Quirks.MARKER_PLANTED_DAYS_AGO + 1 - daysAgo)));
    }
    if (r.key().equals("relay-ledger")) {
      return Databases.postgres(own, dataTime);
    }
    return r.key().equals("bunker-db")
        ? Databases.dump(own, dataTime)
        : Databases.sound(own, dataTime);
  }

  /**
   * @param finished when whoever copied it was done with it
   */
  Shelved put(String store, ResourceRow r, String point, Artifact artifact, Instant finished)
      throws IOException {
    String place = r.key() + "/" + point + "." + artifact.format();
    Path file = stores.resolve(store).resolve(place);
    Files.createDirectories(file.getParent());
    write(file, artifact.bytes(), finished);
    if (artifact.manifest() != null) {
      Path manifest = file.resolveSibling(file.getFileName() + artifact.manifestEnd());
      write(manifest, artifact.manifest(), finished);
    }
    return new Shelved(
        place,
        Sha256.of(artifact.bytes()),
        artifact.manifest() == null ? null : Sha256.of(artifact.manifest()));
  }

  private static void write(Path file, byte[] bytes, Instant when) throws IOException {
    Files.write(file, bytes);
    Files.setLastModifiedTime(file, FileTime.from(when));
  }

  /** As somebody does who is short of space. */
  void remove(String store, String place) throws IOException {
    Files.delete(stores.resolve(store).resolve(place));
  }

  /** What somebody left on a store years ago, and nobody wrote down. */
  void leftOver(String store, String place, int bytes, Instant when) throws IOException {
    Path file = stores.resolve(store).resolve(place);
    Files.createDirectories(file.getParent());
    byte[] content = new byte[bytes];
    new Random(seed + place.hashCode()).nextBytes(content);
    write(file, content, when);
  }

  /** As a failing disk does: one bit in the middle, nothing else. */
  void flipOneBit(String store, String place) throws IOException {
    Path file = stores.resolve(store).resolve(place);
    byte[] bytes = Files.readAllBytes(file);
    bytes[bytes.length / 2] ^= 0x10;
    write(file, bytes, Files.getLastModifiedTime(file).toInstant());
  }
}
