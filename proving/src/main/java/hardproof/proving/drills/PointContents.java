package hardproof.proving.drills;

import hardproof.proving.archives.ArchiveEntries;
import hardproof.proving.archives.Archives;
import hardproof.proving.archives.LayerLister;
import hardproof.proving.archives.Listed;
import hardproof.proving.encryption.Keys;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.Packing;
import hardproof.proving.stores.ArtifactStore;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.util.List;

/** What a point holds, looked at on the store without restoring it. */
public final class PointContents {
  private PointContents() {}

  /** It can't be looked into; the message says why and what would do. */
  public static final class NotListed extends IOException {
    private static final long serialVersionUID = 1L;

    NotListed(String message) {
      super(message);
    }
  }

  /**
   * The files that a restore of the chain would leave, by path.
   *
   * @param mostBytes larger chains are not read through for a look
   * @param work a folder for archives that tell at their end what they hold
   */
  public static List<Listed> list(DrillRequest request, long mostBytes, Path work)
      throws IOException {
    String refusal = TreeRestore.refusal(request);
    if (refusal != null) {
      throw new NotListed("There are no files to look at: " + refusal);
    }
    requireSmall(request, mostBytes);
    LayerLister lister = new LayerLister(request.chain().size() > 1);
    Steps steps = new Steps(new Unwatched(), List.of(), Duration.ofMinutes(2));
    for (Artifact artifact : request.chain()) {
      addOrRefuse(request, work, lister, steps, artifact);
    }
    return lister.entries();
  }

  private static void requireSmall(DrillRequest request, long mostBytes)
      throws ArtifactStore.ArtifactUnreadable, PointContents.NotListed {
    long bytes = 0;
    for (Artifact artifact : request.chain()) {
      bytes += request.store().size(artifact.place());
    }
    if (bytes > mostBytes) {
      throw new NotListed(
          "The artifacts of this point are " + hardproof.core.wording.Wording.bytes(bytes)
              + ", too much to be read for a look. Restore it, or a sample of it.");
    }
  }

  private static void addOrRefuse(
      DrillRequest request, Path work, LayerLister lister, Steps steps, Artifact artifact)
      throws PointContents.NotListed, ArtifactStore.ArtifactUnreadable {
    try {
      add(request, artifact, lister, steps, work);
    } catch (Cancelled e) {
      throw new NotListed("Reading the artifacts takes longer than 2 minutes. Restore it instead.");
    } catch (hardproof.proving.stores.ArtifactStore.ArtifactUnreadable e) {
      throw e;
    } catch (IOException e) {
      throw new NotListed(artifact.place() + " can't be read: " + ArtifactReading.reason(e)
          + ". A drill of it says what is wrong.");
    }
  }

  private static void add(
      DrillRequest request, Artifact artifact, LayerLister lister, Steps steps, Path work)
      throws IOException {
    ArtifactFormat format = artifact.known().orElseThrow();
    if (format.packing() == Packing.FOLDER) {
      lister.folder(request.store().folder(artifact.place()).files(), artifact.place());
      return;
    }
    try (ArtifactReading in = ArtifactReading.open(request, artifact, steps)) {
      InputStream content = new BufferedInputStream(in.content(format, Keys.none()), 1 << 16);
      if (format.packing().seeks()) {
        Path aside = Files.createTempFile(Files.createDirectories(work), "look-", ".aside");
        try {
          Files.copy(content, aside, StandardCopyOption.REPLACE_EXISTING);
          try (ArchiveEntries entries = Archives.open(aside, format.packing())) {
            lister.apply(entries, artifact.place());
          }
        } finally {
          Files.deleteIfExists(aside);
        }
      } else {
        lister.apply(Archives.read(content, format.packing()), artifact.place());
      }
    }
  }
}
